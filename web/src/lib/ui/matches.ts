/** Finding accounts by what a person types. */
import type { Row } from '../books.svelte';

/** Whether each word begins the row's code or one it used to bear, or stands in its name. */
export function matches(row: Row, words: string[]): boolean {
  const codes = [row.code, ...row.former].map((code) => code.toLowerCase());
  const name = row.name.toLowerCase();
  return words.every((word) => codes.some((code) => code.startsWith(word)) || name.includes(word));
}
