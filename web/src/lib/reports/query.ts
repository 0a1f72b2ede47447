// What is asked of the statements, as the address has it: so that it can be sent to a colleague.
import type { operations } from '../api/schema';
import type { Schemas } from '../api/client';

type Reading = Schemas['Reading'];

export interface StatementsQuery {
  kind: Schemas['StatementKind'] | 'trial_balance';
  span: Schemas['Span'];
  beside: Schemas['Beside'];
  count: number;
  until: string | null;
  reading: Reading | null;
  /** A reading that stands beside it. */
  against: Reading | null;
  thousands: boolean;
  /** Of a trial balance. */
  form: Schemas['TrialForm'];
  zeros: boolean;
}

export const KINDS: [StatementsQuery['kind'], string][] = [
  ['income_statement', 'Income statement'],
  ['balance_sheet', 'Balance sheet'],
  ['trial_balance', 'Trial balance'],
];

export const FORMS: [StatementsQuery['form'], string][] = [
  ['balances', 'balances'],
  ['movements', 'what was posted'],
  ['roll', 'opening, movement and closing'],
  ['by_month', 'month by month'],
];

export const SPANS: [StatementsQuery['span'], string][] = [
  ['year', 'the fiscal year'],
  ['quarter', 'the quarter'],
  ['month', 'the month'],
  ['twelve_months', '12 months'],
];

const READINGS: [Reading, string][] = [
  ['as_planned', 'as the plan would leave it'],
  ['as_it_is', 'as it is today'],
  ['as_posted', 'as it was posted'],
];

/** How the history can be read, with a plan or without. */
export const readings = (planned: boolean) =>
  READINGS.filter(([key]) => planned || key !== 'as_planned');

const SHORT: Record<Reading, string> = {
  as_planned: 'as planned',
  as_it_is: 'as it is',
  as_posted: 'as posted',
};

export const short = (reading: Reading): string => SHORT[reading];

function oneOf<T extends string>(list: [T, string][], given: string | null): T | null {
  return list.find(([known]) => known === given)?.[0] ?? null;
}

export function asked(query: URLSearchParams): StatementsQuery {
  const count = Number(query.get('count'));
  return {
    kind: oneOf(KINDS, query.get('statement')) ?? 'income_statement',
    span: oneOf(SPANS, query.get('span')) ?? 'year',
    beside: query.get('beside') === 'earlier_years' ? 'earlier_years' : 'before',
    count: count >= 1 && count <= 8 ? count : 3,
    until: query.get('until'),
    reading: oneOf(READINGS, query.get('reading')),
    against: oneOf(READINGS, query.get('against')),
    thousands: query.get('in') === 'thousands',
    form: oneOf(FORMS, query.get('form')) ?? 'balances',
    zeros: query.has('zeros'),
  };
}

/** The address of what is asked, without what is usual. */
export function address(asked: StatementsQuery): string {
  const { kind, span, beside, count, until, reading, against, thousands, form, zeros } = asked;
  const query = new URLSearchParams();
  if (kind !== 'income_statement') query.set('statement', kind);
  if (span !== 'year') query.set('span', span);
  if (beside !== 'before') query.set('beside', beside);
  if (count !== 3) query.set('count', String(count));
  if (until) query.set('until', until);
  if (reading) query.set('reading', reading);
  if (against) query.set('against', against);
  if (thousands) query.set('in', 'thousands');
  if (form !== 'balances') query.set('form', form);
  if (zeros) query.set('zeros', '1');
  return `?${query}`;
}

export type Query = NonNullable<operations['reports_statements']['parameters']['query']>;

/** What is asked of the server; `plan` is the open one. */
export function query(
  { span, beside, count, ...asked }: StatementsQuery,
  plan: number | undefined,
): Query {
  const query: Query = { span, beside, count };
  if (plan !== undefined) query.plan = plan;
  if (asked.until) query.until = asked.until;
  if (asked.reading) query.reading = asked.reading;
  if (asked.against) query.against = asked.against;
  if (asked.thousands) query.in_thousands = true;
  return query;
}
