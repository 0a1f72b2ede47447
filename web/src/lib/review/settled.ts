// What of the review the open plan settles already.
import type { Schemas } from '../api/client';
import type { BooksState } from '../books.svelte';
import { stage as staged, type Edit, type Field } from '../staging/edits';

export type Review = Omit<Schemas['ReviewPage'], 'pages'>;
export type LookAlike = Schemas['LookAlikeView'];
export type Unused = Schemas['UnusedView'];
export type Remark = Schemas['RemarkView'];
export type Mend = Schemas['FixView'];

/** The findings of all pages. */
export function together(pages: Review[]): Review {
  return {
    since: pages[0]?.since ?? '',
    look_alikes: pages.flatMap((page) => page.look_alikes),
    worth_a_look: pages.flatMap((page) => page.worth_a_look),
    others: pages.flatMap((page) => page.others),
    unused: pages.flatMap((page) => page.unused),
    retired: pages.flatMap((page) => page.retired),
    not_duplicates: pages.flatMap((page) => page.not_duplicates),
    dismissed: pages.flatMap((page) => page.dismissed),
  };
}

/** What a group is known by. */
export const keyOf = (group: LookAlike): string => group.accounts.join(' ');

const fate = (books: BooksState, account: number) => books.staged.get(account)?.get('fate');

/** Whether all accounts of a group but one are on their way out. */
export function isGroupSettled(books: BooksState, group: LookAlike): boolean {
  return group.accounts.filter((account) => !fate(books, account)).length <= 1;
}

/** Whether a fate is staged for an account that is not used. */
export function isUnusedSettled(books: BooksState, unused: Unused): boolean {
  return fate(books, unused.account) !== undefined;
}

/** Whether what a remark is about is staged to become otherwise. */
export function isRemarkSettled(books: BooksState, remark: Remark): boolean {
  const fields = new Set<Field>(
    remark.fixes.flatMap((mend) => mend.edits.map((edit) => edit.change.field)),
  );
  if (remark.moves) fields.add('history');
  return remark.accounts.some((account) => {
    const target = books.staged.get(account);
    return target !== undefined && [...fields].some((field) => target.has(field));
  });
}

/** Stages what fixes something. */
export async function stage(books: BooksState, mend: Mend): Promise<void> {
  if (mend.adds) await books.add(mend.adds);
  else await books.edit(editsOf(mend));
}

/** What has to be staged to mend something. */
export const editsOf = (mend: Mend): Edit[] =>
  mend.edits.map(({ account, change }) => staged(account, change));
