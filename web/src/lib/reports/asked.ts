// What is asked of the statements, as the address has it: so that it can be sent to a colleague.
import type { Schemas } from '../api/client';

export interface Asked {
  kind: Schemas['StatementKind'];
  span: Schemas['Span'];
  beside: Schemas['Beside'];
  count: number;
  until: string | null;
  reading: Schemas['Reading'] | null;
}

export const KINDS: [Asked['kind'], string][] = [
  ['income_statement', 'Income statement'],
  ['balance_sheet', 'Balance sheet'],
];

export const SPANS: [Asked['span'], string][] = [
  ['year', 'the fiscal year'],
  ['quarter', 'the quarter'],
  ['month', 'the month'],
  ['twelve_months', '12 months'],
];

const READINGS: [Schemas['Reading'], string][] = [
  ['as_planned', 'as the plan would leave it'],
  ['as_it_is', 'as it is today'],
  ['as_posted', 'as it was posted'],
];

/** How the history can be read, with a plan or without. */
export const readings = (planned: boolean) =>
  READINGS.filter(([key]) => planned || key !== 'as_planned');

function oneOf<T extends string>(list: [T, string][], given: string | null): T | null {
  return list.find(([known]) => known === given)?.[0] ?? null;
}

export function asked(query: URLSearchParams): Asked {
  const count = Number(query.get('count'));
  return {
    kind: oneOf(KINDS, query.get('statement')) ?? 'income_statement',
    span: oneOf(SPANS, query.get('span')) ?? 'year',
    beside: query.get('beside') === 'earlier_years' ? 'earlier_years' : 'before',
    count: count >= 1 && count <= 8 ? count : 3,
    until: query.get('until'),
    reading: oneOf(READINGS, query.get('reading')),
  };
}

/** The address of what is asked, without what is usual. */
export function address({ kind, span, beside, count, until, reading }: Asked): string {
  const query = new URLSearchParams();
  if (kind !== 'income_statement') query.set('statement', kind);
  if (span !== 'year') query.set('span', span);
  if (beside !== 'before') query.set('beside', beside);
  if (count !== 3) query.set('count', String(count));
  if (until) query.set('until', until);
  if (reading) query.set('reading', reading);
  return `?${query}`;
}
