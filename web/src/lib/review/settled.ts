// What of the review the open plan settles already.
import type { Schemas } from '../api/client';
import type { BooksState } from '../books.svelte';

export type Review = Schemas['ReviewView'];
export type LookAlike = Schemas['LookAlikeView'];
export type Unused = Schemas['UnusedView'];

const fate = (books: BooksState, account: number) => books.staged.get(account)?.get('fate');

/** Whether all accounts of a group but one are on their way out. */
export function isGroupSettled(books: BooksState, group: LookAlike): boolean {
  return group.accounts.filter((account) => !fate(books, account)).length <= 1;
}

/** Whether a fate is staged for an account that is not used. */
export function isUnusedSettled(books: BooksState, unused: Unused): boolean {
  return fate(books, unused.account) !== undefined;
}
