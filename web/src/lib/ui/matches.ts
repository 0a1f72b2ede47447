/** Finding accounts by what a person types. */
import type { Row } from '../books.svelte';

/** What is sought in of each row; a row is the same object as long as its chart is shown. */
const sought = new WeakMap<Row, { codes: string[]; names: string[] }>();

/** A text as it is sought: in small letters, without accents. */
const plain = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** What a person typed, word by word. */
export const wordsOf = (text: string): string[] => plain(text).split(/\s+/).filter(Boolean);

function plainOf(row: Row) {
  const known = sought.get(row);
  if (known) return known;
  const made = {
    codes: [row.code, ...row.former].map(plain),
    names: [row.name, ...row.former_names].map(plain),
  };
  sought.set(row, made);
  return made;
}

/** Whether each word begins a code of the row or stands in a name of it, of now or before. */
export function matches(row: Row, words: string[]): boolean {
  const { codes, names } = plainOf(row);
  return words.every(
    (word) =>
      codes.some((code) => code.startsWith(word)) || names.some((name) => name.includes(word)),
  );
}

/** Whether a name has all of the words. */
export const matchesName = (name: string, words: string[]): boolean =>
  words.length > 0 && words.every((word) => plain(name).includes(word));
