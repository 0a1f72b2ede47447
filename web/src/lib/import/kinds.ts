// What can be imported, in the usual order.

export const KINDS = [
  {
    key: 'chart',
    form: 'Chart of accounts',
    title: 'A chart of accounts',
    columns: 'Code, Name and Class; also Caption, Heading, Row kind, Adds up …',
  },
  {
    key: 'journal',
    form: 'Journal',
    title: 'A journal',
    columns: 'Entry, Date, Code, Debit and Credit; also Payee, Details, Currency …',
  },
  {
    key: 'balances',
    form: 'Balances',
    title: 'Balances: a trial balance, or what opens the books',
    columns: 'Code, Debit and Credit. Compared with the journal, or stored as opening balances.',
  },
  {
    key: 'crosswalk',
    form: 'Crosswalk',
    title: 'An old-to-new crosswalk',
    columns: 'Old code and New code; also New name. It is staged in a plan.',
  },
  {
    key: 'usage',
    form: 'Where-used list',
    title: 'A where-used list',
    columns: 'Code, Used by and Called: bank rules, budget lines, items …',
  },
] as const;
