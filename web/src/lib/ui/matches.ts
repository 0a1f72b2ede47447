/** Finding accounts by what a person types. */
import type { Row } from '../books.svelte';

/** What is sought in of each row, in small letters; a row is the same object as long as its chart is shown. */
const sought = new WeakMap<Row, { codes: string[]; name: string }>();

function small(row: Row) {
  const known = sought.get(row);
  if (known) return known;
  const codes = [row.code, ...row.former].map((code) => code.toLowerCase());
  const made = { codes, name: row.name.toLowerCase() };
  sought.set(row, made);
  return made;
}

/** Whether each word begins the row's code or one it used to bear, or stands in its name. */
export function matches(row: Row, words: string[]): boolean {
  const { codes, name } = small(row);
  return words.every((word) => codes.some((code) => code.startsWith(word)) || name.includes(word));
}
