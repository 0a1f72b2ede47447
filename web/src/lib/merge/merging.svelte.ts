// The state of a merge: accounts side by side, which one stays, and what is kept of each.
import { Asking } from '../api/asking';
import { api, answer, sentence, type Schemas } from '../api/client';
import type { BooksState, Edit, Field } from '../books.svelte';

export type Beside = Schemas['MergingView'];

export class MergingState {
  readonly books: BooksState;
  beside = $state.raw<Beside | null>(null);
  survivor = $state(0);
  /** Accounts that are left out of the merge. */
  out = $state.raw<ReadonlySet<number>>(new Set());
  /** Of which account each setting is kept, when it is not the survivor's. */
  kept = $state.raw<ReadonlyMap<string, number>>(new Map());
  /** A name that none of them has. */
  name = $state('');
  problem = $state('');
  readonly #asking = new Asking();

  constructor(books: BooksState) {
    this.books = books;
  }

  readonly merged = $derived(
    this.beside?.accounts
      .map(({ account }) => account)
      .filter((account) => account !== this.survivor && !this.out.has(account)) ?? [],
  );
  readonly isStaged = $derived(
    this.merged.length > 0 &&
      this.merged.every((account) => this.books.seen(account, 'fate') === `merge:${this.survivor}`),
  );

  async load(accounts: number[], survivor?: number): Promise<void> {
    const isLatest = this.#asking.begin();
    this.problem = '';
    try {
      const beside = await answer(
        api.GET('/api/books/{books}/merging', {
          params: {
            path: { books: this.books.id },
            query: { accounts: accounts.join(',') },
          },
        }),
      );
      if (!isLatest()) return;
      this.beside = beside;
      this.survivor = survivor ?? this.#stagedSurvivor(beside) ?? beside.survivor;
      this.out = new Set();
      this.kept = new Map();
      this.name = '';
    } catch (error) {
      if (isLatest()) this.problem = sentence(error);
    }
  }

  #stagedSurvivor(beside: Beside): number | undefined {
    for (const { account } of beside.accounts) {
      const into = this.books.seen(account, 'fate')?.match(/^merge:(\d+)$/)?.[1];
      if (into && beside.accounts.some((other) => other.account === Number(into))) {
        return Number(into);
      }
    }
    return undefined;
  }

  keep(account: number): void {
    this.survivor = account;
    this.out = new Set([...this.out].filter((id) => id !== account));
  }

  toggle(account: number): void {
    const out = new Set(this.out);
    if (!out.delete(account)) out.add(account);
    this.out = out;
  }

  take(field: string, account: number): void {
    this.kept = new Map([...this.kept, [field, account]]);
    if (field === 'name') this.name = '';
  }

  source(field: string): number {
    const kept = this.kept.get(field) ?? this.survivor;
    return this.out.has(kept) ? this.survivor : kept;
  }

  #at(account: number): number {
    return this.beside?.accounts.findIndex((one) => one.account === account) ?? -1;
  }

  /** What the survivor would have, in words. */
  together(setting: Schemas['SettingView']): string {
    if (setting.field === 'name' && this.name.trim()) return this.name.trim();
    const source = this.source(setting.field);
    // What the plan already gives to the one that stays, it keeps.
    const staged = this.books.seen(this.survivor, setting.field);
    const plain = setting.field === 'name' || setting.field === 'code';
    if (plain && staged !== null && !this.kept.has(setting.field)) return staged;
    return setting.words[this.#at(source)] ?? '';
  }

  async stage(): Promise<void> {
    const beside = this.beside;
    if (!beside || this.merged.length === 0) return;
    const fates: Edit[] = this.merged.map((account) => ({
      account,
      field: 'fate',
      value: `merge:${this.survivor}`,
    }));
    const own = this.#at(this.survivor);
    const fields = beside.settings.flatMap((setting): Edit[] => {
      const value =
        setting.field === 'name' && this.name.trim()
          ? this.name.trim()
          : (setting.values[this.#at(this.source(setting.field))] ?? '');
      const field = setting.field as Field;
      // Nothing was chosen here: the one that stays keeps what it has, or what is staged for it.
      const typed = field === 'name' && this.name.trim() !== '';
      if (!typed && !this.kept.has(field)) return [];
      const seen = this.books.seen(this.survivor, field);
      if (!setting.can_be_kept || value === (seen ?? setting.values[own])) return [];
      return [{ account: this.survivor, field, value }];
    });
    // Who was to go stays now.
    const stays = this.books.seen(this.survivor, 'fate');
    const back: Edit[] = stays ? [{ account: this.survivor, field: 'fate', value: null }] : [];
    try {
      await this.books.edit([...fates, ...fields, ...back]);
      this.problem = '';
    } catch (error) {
      this.problem = sentence(error);
    }
  }

  /** Takes the merge back, and with it what the one that stays was to have of those that went. */
  async takeBack(): Promise<void> {
    const fates: Edit[] = this.merged.map((account) => ({ account, field: 'fate', value: null }));
    const kept = (this.beside?.settings ?? []).flatMap(({ field, values }): Edit[] => {
      const seen = this.books.seen(this.survivor, field as Field);
      const ofOthers = this.merged.some((account) => values[this.#at(account)] === seen);
      const typed = field === 'name' && seen === this.name.trim();
      if (seen === null || !(ofOthers || typed)) return [];
      return [{ account: this.survivor, field: field as Field, value: null }];
    });
    await this.books.edit([...fates, ...kept]);
  }
}
