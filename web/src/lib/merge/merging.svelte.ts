// The state of a merge: accounts side by side, which one stays, and what is kept of each.
import { Attempt } from '../api/attempt.svelte';
import { Asking } from '../api/debounce';
import { api, answer, type Schemas } from '../api/client';
import type { BooksState } from '../books.svelte';
import {
  mergeInto,
  same,
  stage,
  survivorOf,
  unstage,
  type Change,
  type Edit,
} from '../staging/edits';

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
  readonly asking = new Asking();
  readonly staging = new Attempt();

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
      this.merged.every(
        (account) => survivorOf(this.books.seen(account, 'fate')) === this.survivor,
      ),
  );

  async load(accounts: number[], survivor?: number): Promise<void> {
    const query = { accounts: accounts.join(',') };
    const params = { path: { books: this.books.id }, query };
    this.asking.clear();
    await this.asking.latest(
      () => answer(api.GET('/api/books/{books}/merging', { params })),
      (beside) => {
        this.beside = beside;
        this.survivor = survivor ?? this.#stagedSurvivor(beside) ?? beside.survivor;
        this.out = new Set();
        this.kept = new Map();
        this.name = '';
      },
    );
  }

  #stagedSurvivor(beside: Beside): number | undefined {
    for (const { account } of beside.accounts) {
      const into = survivorOf(this.books.seen(account, 'fate'));
      if (into !== null && beside.accounts.some((other) => other.account === into)) return into;
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
    const { field } = setting;
    const staged =
      field === 'name' || field === 'code' ? this.books.seen(this.survivor, field) : undefined;
    if (staged !== undefined && !this.kept.has(field)) return staged;
    return setting.words[this.#at(source)] ?? '';
  }

  async stage(): Promise<void> {
    const beside = this.beside;
    if (!beside || this.merged.length === 0) return;
    const fates = this.merged.map((account) => mergeInto(account, this.survivor));
    const own = this.#at(this.survivor);
    const staged = this.books.staged.get(this.survivor);
    const fields = beside.settings.flatMap(({ field, values, can_be_kept }): Edit[] => {
      // Nothing was chosen here: the one that stays keeps what it has, or what is staged for it.
      const typed = field === 'name' ? this.name.trim() : '';
      if (!can_be_kept || (!typed && !this.kept.has(field))) return [];
      const wanted: Change | undefined = typed
        ? { field: 'name', value: typed }
        : values[this.#at(this.source(field))];
      if (!wanted || same(wanted, staged?.change(field) ?? values[own])) return [];
      return [stage(this.survivor, wanted)];
    });
    // Who was to go stays now.
    const goes = staged?.has('fate') && staged.get('fate')?.fate !== 'restore';
    const back = goes ? [unstage(this.survivor, 'fate')] : [];
    await this.staging.run(() => this.books.edit([...fates, ...fields, ...back]));
  }

  /** Takes the merge back, and with it what the one that stays was to have of those that went. */
  async unstage(): Promise<void> {
    const fates = this.merged.map((account) => unstage(account, 'fate'));
    const kept = (this.beside?.settings ?? []).flatMap(({ field, values }): Edit[] => {
      const seen = this.books.staged.get(this.survivor)?.change(field);
      const ofOthers = this.merged.some((account) => same(values[this.#at(account)], seen));
      const typed = same(seen, { field: 'name', value: this.name.trim() });
      return seen && (ofOthers || typed) ? [unstage(this.survivor, field)] : [];
    });
    await this.books.edit([...fates, ...kept]);
  }
}
