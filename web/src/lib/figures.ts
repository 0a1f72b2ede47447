// How figures and dates are written. Amounts come as decimal text and never become numbers.
import { forms } from './forms.svelte';

const whole = new Intl.NumberFormat('en-GB');

/** What stands between thousands, and before decimals. */
const MARKS = {
  comma_point: [',', '.'],
  point_comma: ['.', ','],
  space_comma: ['\u202f', ','],
  apostrophe_point: ['’', '.'],
} as const;

function grouped(n: bigint | number): string {
  return whole.format(n).replaceAll(',', MARKS[forms.numbers][0]);
}

/** An amount without its sign, with its thousands apart. */
export function magnitude(amount: string): string {
  const [units = '0', fraction] = amount.replace('-', '').split('.');
  const large = grouped(BigInt(units));
  return fraction === undefined ? large : large + MARKS[forms.numbers][1] + fraction;
}

export const isCredit = (amount: string): boolean => amount.startsWith('-');

export const isZero = (amount: string): boolean => /^-?[0.]+$/.test(amount);

/** A signed amount for differences, with a true minus sign. */
export function signed(amount: string): string {
  return (isCredit(amount) && !isZero(amount) ? '−' : '') + magnitude(amount);
}

/** One amount less another of the same decimals; none counts as zero. */
export function less(amount: string | null | undefined, other: string | null | undefined): string {
  const places = Math.max(...[amount, other].map((text) => text?.split('.')[1]?.length ?? 0));
  const minor = (text: string | null | undefined) => BigInt(text?.replace('.', '') || 0);
  const difference = minor(amount) - minor(other);
  const digits = String(difference < 0n ? -difference : difference).padStart(places + 1, '0');
  const whole = digits.slice(0, digits.length - places);
  const sign = difference < 0n ? '-' : '';
  return places === 0 ? sign + whole : `${sign}${whole}.${digits.slice(-places)}`;
}

export function count(n: number): string {
  return grouped(n);
}

export function plural(n: number, one: string, many = `${one}s`): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}

// Three letters for every month, which British English has not for September.
const month = new Intl.DateTimeFormat('en-US', { month: 'short', timeZone: 'UTC' });
const longMonth = new Intl.DateTimeFormat('en-GB', { month: 'long', timeZone: 'UTC' });

/** A date, without its year when it lies in the fiscal year that ends on `yearEnd`. */
export function shortDate(date: string, yearEnd: string | null | undefined): string {
  const [year = '', number = '', day = ''] = date.split('-');
  const start = yearEnd ? `${Number(yearEnd.slice(0, 4)) - 1}${yearEnd.slice(4)}` : '9999';
  const others = date > start ? '' : year.slice(2);
  const name = month.format(new Date(date));
  switch (forms.dates) {
    case 'iso':
      return date;
    case 'points':
      return `${day}.${number}.${others}`;
    case 'month_day':
      return `${name} ${Number(day)}${others && ` ’${others}`}`;
    default:
      return `${day} ${name}${others && ` ${others}`}`;
  }
}

const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

export const timeOfDay = (at: string): string => clock.format(new Date(at));

export function longDate(date: string): string {
  const [year = '', number = '', day = ''] = date.split('-');
  const name = longMonth.format(new Date(date));
  switch (forms.dates) {
    case 'iso':
      return date;
    case 'points':
      return `${day}.${number}.${year}`;
    case 'month_day':
      return `${name} ${Number(day)}, ${year}`;
    default:
      return `${Number(day)} ${name} ${year}`;
  }
}

/** A day as the calendar on the wall has it, in the form of a date field. */
function isoDay(at: Date): string {
  const two = (n: number) => String(n).padStart(2, '0');
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
}

/** A moment as the clock on the wall has it. */
export function instant(at: string): string {
  const here = new Date(at);
  return `${longDate(isoDay(here))}, ${clock.format(here)}`;
}

/** Today, in the form of a date field. */
export const today = (): string => isoDay(new Date());

/** The day of a moment, as the calendar on the wall has it. */
export function dayOf(at: string): string {
  return instant(at).replace(/, [0-9:]+$/, '');
}

/** The month that a day is in. */
export const monthOf = (date: string): string => longMonth.format(new Date(date));

/** Tenths of a per cent as a part of a whole: 41.2 %. */
export function share(tenths: number): string {
  const size = Math.abs(tenths);
  return `${tenths < 0 ? '−' : ''}${count(Math.floor(size / 10))}${MARKS[forms.numbers][1]}${size % 10} %`;
}

/** Tenths of a per cent as a change: +2.2 %. */
export function percent(tenths: number): string {
  return `${tenths > 0 ? '+' : ''}${share(tenths)}`;
}
