// Which entries of the journal are shown, as the address has it: so that it can be sent to a colleague.

export interface Asked {
  account: number | null;
  from: string | null;
  to: string | null;
  text: string | null;
  amount: string | null;
}

export function asked(query: URLSearchParams): Asked {
  const account = Number(query.get('account'));
  return {
    account: account > 0 ? account : null,
    from: query.get('from'),
    to: query.get('to'),
    text: query.get('text'),
    amount: query.get('amount'),
  };
}

/** The address of these entries in a set of books. */
export function journal(books: number, asked: Partial<Asked>): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(asked)) if (value) query.set(name, String(value));
  return `/books/${books}/journal${query.size ? `?${query}` : ''}`;
}
