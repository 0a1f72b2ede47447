// The months of an account, in rows across the columns of a statement.
import type { Schemas } from '../api/client';

type Month = Schemas['MonthView'];

const calendarMonth = (month: Month) => month.until.slice(5, 7);

/**
 * Months in rows: the same months of the year in one row where columns share them, else the first of each in the first
 * row, and so on.
 */
export function inRows(columns: Month[][]): (Month | undefined)[][] {
  const longest = columns.reduce((a, b) => (b.length > a.length ? b : a), []);
  const months = new Set(longest.map(calendarMonth));
  const shared = columns.every((column) =>
    column.every((month) => months.has(calendarMonth(month))),
  );
  if (shared) {
    return longest.map((of) =>
      columns.map((column) => column.find((month) => calendarMonth(month) === calendarMonth(of))),
    );
  }
  return longest.map((_, n) => columns.map((column) => column[n]));
}
