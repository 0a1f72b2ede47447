// Which entries of the journal are shown, as the address has it: so that it can be sent to a colleague.

export interface EntriesQuery {
  account: number | null;
  /** A plan that puts others into the account. */
  plan: number | null;
  /** The code that lines of the account were posted under. */
  code: string | null;
  /** The import that they came with. */
  import: number | null;
  from: string | null;
  to: string | null;
  text: string | null;
  amount: string | null;
}

export function asked(query: URLSearchParams): EntriesQuery {
  const number = (name: string) => {
    const read = Number(query.get(name));
    return read > 0 ? read : null;
  };
  return {
    account: number('account'),
    plan: number('plan'),
    code: query.get('code'),
    import: number('import'),
    from: query.get('from'),
    to: query.get('to'),
    text: query.get('text'),
    amount: query.get('amount'),
  };
}

/** The address of these entries in a set of books. */
export function journal(books: number, asked: Partial<EntriesQuery>): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(asked)) if (value) query.set(name, String(value));
  return `/books/${books}/journal${query.size ? `?${query}` : ''}`;
}
