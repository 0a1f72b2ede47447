// The state of moving history: the parts as they are being said, and what the server says they do.
import { createContext } from 'svelte';
import { Asking } from '../api/debounce';
import { api, answer, type Schemas } from '../api/client';
import type { BooksState } from '../books.svelte';
import { same, stage, unstage, type Change } from '../staging/edits';

export type Part = Schemas['Part'];
export type Preview = Schemas['HistoryView'];

export const newPart = (): Part => ({ to: 0, which: { payee: '', memo: '', entries: [] } });

const moving = (split: Schemas['Split']): Change => ({ field: 'history', value: split });

/** A part without the blanks that were left empty. */
const said = ({ to, which }: Part): Part => ({
  to,
  which: { ...which, from: which.from || null, until: which.until || null },
});

export class MovingState {
  readonly books: BooksState;
  readonly account: number;
  parts = $state<Part[]>([newPart()]);
  ranked = $state(false);
  /** The part that is being worked on. */
  at = $state(0);
  preview = $state.raw<Preview | null>(null);
  readonly asking = new Asking();

  /** Whether every part says where it goes. */
  readonly complete = $derived(this.parts.length > 0 && this.parts.every((part) => part.to !== 0));
  readonly lines = $derived(this.preview?.parts.reduce((sum, part) => sum + part.lines, 0) ?? 0);
  readonly staged = $derived.by(() => this.books.seen(this.account, 'history'));

  /** Whether just this is staged. */
  readonly settled = $derived.by(() => {
    const staged = this.books.staged.get(this.account)?.change('history');
    return this.preview !== null && same(staged, moving(this.preview.split));
  });

  constructor(books: BooksState, account: number) {
    this.books = books;
    this.account = account;
    const split = books.seen(account, 'history');
    if (split) {
      this.parts = split.parts.map(({ to, which }) => ({
        to,
        which: { ...which, entries: [...which.entries] },
      }));
      this.ranked = split.ranked;
    }
    void this.#ask();
  }

  add(): void {
    this.parts.push(newPart());
    this.at = this.parts.length - 1;
    this.changed();
  }

  remove(at: number): void {
    this.parts.splice(at, 1);
    if (this.parts.length === 0) this.parts.push(newPart());
    this.at = Math.min(this.at, this.parts.length - 1);
    this.changed();
  }

  /** Puts a part before the one above it; the order counts once it is ranked. */
  raise(at: number): void {
    const [part] = this.parts.splice(at, 1);
    if (part) this.parts.splice(at - 1, 0, part);
    this.at = at - 1;
    this.changed();
  }

  /** Chooses the entry of a line by hand for the part that is worked on, or lets it go again. */
  choose(entry: string): void {
    const part = this.parts[this.at];
    if (!part) return;
    const { which } = part;
    const chosen = which.entries.includes(entry);
    which.entries = chosen ? which.entries.filter((e) => e !== entry) : [...which.entries, entry];
    this.changed();
  }

  /** Asks anew what the parts do, once typing rests. */
  changed(): void {
    this.asking.soon(() => void this.#ask());
  }

  /** What the parts do, shown unless something newer was asked meanwhile. */
  #ask(): Promise<Preview | null> {
    const params = { path: { books: this.books.id, account: this.account } };
    const body = { ranked: this.ranked, parts: $state.snapshot(this.parts).map(said) };
    return this.asking.latest(
      () => answer(api.POST('/api/books/{books}/accounts/{account}/history', { params, body })),
      (preview) => (this.preview = preview),
    );
  }

  async stage(): Promise<void> {
    // Of what is said now, even if it was changed a moment ago and is not shown yet.
    const preview = await this.#ask();
    if (preview) await this.books.edit([stage(this.account, moving(preview.split))]);
  }

  async unstage(): Promise<void> {
    await this.books.edit([unstage(this.account, 'history')]);
  }
}

export const [getMoving, setMoving] = createContext<MovingState>();
