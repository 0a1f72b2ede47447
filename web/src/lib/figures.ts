// How figures and dates are written. Amounts come as decimal text and never become numbers.

const whole = new Intl.NumberFormat('en-GB');

/** An amount without its sign, with commas between thousands. */
export function magnitude(amount: string): string {
  const [units = '0', fraction] = amount.replace('-', '').split('.');
  const grouped = whole.format(BigInt(units));
  return fraction === undefined ? grouped : `${grouped}.${fraction}`;
}

export const isCredit = (amount: string): boolean => amount.startsWith('-');

export const isZero = (amount: string): boolean => /^-?[0.]+$/.test(amount);

/** A signed amount for differences, with a true minus sign. */
export function signed(amount: string): string {
  return (isCredit(amount) && !isZero(amount) ? '−' : '') + magnitude(amount);
}

export function count(n: number): string {
  return whole.format(n);
}

export function plural(n: number, one: string, many = `${one}s`): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}

// Three letters for every month, which British English has not for September.
const month = new Intl.DateTimeFormat('en-US', { month: 'short', timeZone: 'UTC' });
const long = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
const moment = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'long',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
});

/** A date, without its year when it lies in the fiscal year that ends on `yearEnd`. */
export function shortDate(date: string, yearEnd: string | null | undefined): string {
  const [year = '', , day = ''] = date.split('-');
  const text = `${day} ${month.format(new Date(date))}`;
  const start = yearEnd ? `${Number(yearEnd.slice(0, 4)) - 1}${yearEnd.slice(4)}` : '9999';
  return date > start ? text : `${text} ${year.slice(2)}`;
}

const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

export const timeOfDay = (at: string): string => clock.format(new Date(at));

export const longDate = (date: string): string => long.format(new Date(`${date}T00:00:00`));

export const instant = (at: string): string => moment.format(new Date(at));

const monthName = new Intl.DateTimeFormat('en-GB', { month: 'long', timeZone: 'UTC' });

/** The month that a day is in. */
export const monthOf = (date: string): string => monthName.format(new Date(date));

/** Tenths of a per cent as a part of a whole: 41.2 %. */
export function share(tenths: number): string {
  const size = Math.abs(tenths);
  return `${tenths < 0 ? '−' : ''}${count(Math.floor(size / 10))}.${size % 10} %`;
}

/** Tenths of a per cent as a change: +2.2 %. */
export function percent(tenths: number): string {
  return `${tenths > 0 ? '+' : ''}${share(tenths)}`;
}
