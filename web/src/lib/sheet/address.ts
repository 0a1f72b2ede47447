/** The address of the card of an account. */
export const cardOf = (books: number, account: number): string =>
  `/books/${books}/chart?account=${account}`;
