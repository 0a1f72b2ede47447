// The state of the sheet: cursor, selection, editing in place, paste and fill. The components draw it.
import { goto } from '$app/navigation';
import { createContext } from 'svelte';
import { Refusal } from '../api/client';
import type { BooksState } from '../books.svelte';
import {
  countOn,
  fieldOf,
  giveFate,
  mergeIntoTyped,
  stage,
  unstageAll,
  unstage,
  type Edit,
  type Fate,
} from '../staging/edits';
import { beyondFilter, outline, visible, type SheetRow } from './rows';

/** The columns of the After side that the cursor stands in. */
export const COLUMNS = ['code', 'name', 'fate'] as const;
export type Column = (typeof COLUMNS)[number];

/** What a person asks of the selected rows; the dialogs answer to it. */
export type Ask = 'merge' | 'regroup' | 'sort' | 'add' | 'retire' | 'fates' | 'card';

/** The fates that an account has from a day on. */
export type Retiring = 'deactivate' | 'archive';

/** What can be done with selected rows. */
export type RowAction =
  | 'merge'
  | 'history'
  | 'renumber'
  | 'regroup'
  | 'sort'
  | 'add'
  | 'clear'
  | Exclude<Fate['fate'], 'add' | 'merge_into'>;

/** A text in a cell, as typed or pasted. */
interface Typed {
  row: SheetRow;
  column: 'code' | 'name';
  text: string;
}

const cell = (account: number, field: string) => `${account} ${field}`;

export class SheetState {
  readonly books: BooksState;
  text = $state('');
  class = $state('');
  origin = $state('');
  changesOnly = $state(false);
  proposedOnly = $state(false);
  /** The side that a window shows that is too narrow for both. */
  side = $state<'today' | 'after'>('today');
  /** Whether deactivated and archived rows are shown where nothing is searched for. */
  showRetired = $state(false);
  /** The only rows to be shown, when some were picked elsewhere. */
  picked = $state.raw<ReadonlySet<number> | null>(null);
  closed = $state.raw<ReadonlySet<number>>(new Set());
  cursor = $state({ row: 0, column: 0 });
  anchor = $state<number | null>(null);
  /** The text of the cell that is being edited. */
  editing = $state<string | null>(null);
  asked = $state<Ask | null>(null);
  /** What is asked the day of. */
  retiring = $state<Retiring>('deactivate');
  /** Cells that could not be taken, with the text and the reason. */
  refused = $state.raw<ReadonlyMap<string, { value: string; reason: string }>>(new Map());
  message = $state('');

  readonly all = $derived.by(() => outline(this.books));
  readonly rows = $derived.by(() => visible(this.all, this, this.books));
  /** How many rows have what is sought and are left out by the other filters. */
  readonly beyond = $derived.by(() => beyondFilter(this.all, this.rows, this));
  readonly current = $derived<SheetRow | undefined>(this.rows[this.cursor.row]);
  readonly column = $derived<Column>(COLUMNS[this.cursor.column] ?? 'code');
  readonly range = $derived.by(() => {
    const other = this.anchor ?? this.cursor.row;
    return [Math.min(other, this.cursor.row), Math.max(other, this.cursor.row)] as const;
  });
  readonly selected = $derived(this.rows.slice(this.range[0], this.range[1] + 1));

  constructor(books: BooksState) {
    this.books = books;
  }

  isSelected(row: number): boolean {
    return row >= this.range[0] && row <= this.range[1];
  }

  refusal(row: SheetRow, field: Column) {
    return this.refused.get(cell(row.id, field));
  }

  go(row: number, column = this.cursor.column, keepAnchor = false): void {
    const last = Math.max(this.rows.length - 1, 0);
    this.anchor = keepAnchor ? (this.anchor ?? this.cursor.row) : null;
    this.cursor = {
      row: Math.min(Math.max(row, 0), last),
      column: Math.min(Math.max(column, 0), COLUMNS.length - 1),
    };
  }

  /** Shows whatever is sought, of any class and origin, changed or not. */
  unfilter(): void {
    this.class = '';
    this.origin = '';
    this.changesOnly = false;
    this.proposedOnly = false;
    this.picked = null;
  }

  showAll(): void {
    this.text = '';
    this.unfilter();
  }

  /** Shows the row of an account, whatever the filter. */
  reveal(account: number): void {
    if (!this.rows.some((row) => row.id === account)) {
      this.showAll();
      this.showRetired = true;
      this.closed = new Set();
    }
    this.go(this.rows.findIndex((row) => row.id === account));
  }

  /** Shows the row of an account with its card. */
  showCard(account: number): void {
    this.reveal(account);
    this.asked = 'card';
  }

  /** Shows only these rows, all of them selected. */
  pick(accounts: number[]): void {
    this.picked = new Set(accounts);
    this.selectAll();
  }

  toggle(heading: number): void {
    const closed = new Set(this.closed);
    if (!closed.delete(heading)) closed.add(heading);
    this.closed = closed;
  }

  begin(text?: string): void {
    const row = this.current;
    if (!row) return;
    if (this.column === 'fate') {
      this.asked = 'fates';
      return;
    }
    const field = this.column;
    const refused = this.refused.get(cell(row.id, field));
    this.editing = text ?? refused?.value ?? this.books.seen(row.id, field) ?? row[field];
  }

  /** Ends the editing of a cell, stages what was typed and moves on. */
  async commit(down = 1, across = 0): Promise<void> {
    const [row, text, column] = [this.current, this.editing, this.column];
    this.editing = null;
    if (!row || text === null || column === 'fate') return;
    this.go(this.cursor.row + down, this.cursor.column + across);
    await this.#take([{ row, column, text }]);
  }

  cancel(): void {
    this.editing = null;
    this.anchor = null;
  }

  /** Stages what was typed or pasted into cells. */
  async #take(cells: Typed[]): Promise<void> {
    await this.stage(cells.map(meaning));
  }

  /** Stages edits. Those that cannot be taken are marked and explained; the others are staged. */
  async stage(edits: Edit[]): Promise<void> {
    const refused = new Map(this.refused);
    const wanted = new Map(edits.map((edit) => [cellOf(edit), edit]));
    for (const key of wanted.keys()) refused.delete(key);
    this.message = '';
    try {
      await this.books.edit(edits);
    } catch (error) {
      const fields = error instanceof Refusal ? (error.problem.refused ?? []) : [];
      if (fields.length === 0) {
        this.message = error instanceof Error ? error.message : String(error);
        return;
      }
      for (const { account, field, reason } of fields) {
        const key = cell(account ?? 0, field);
        refused.set(key, { value: typedIn(wanted.get(key)), reason });
        wanted.delete(key);
      }
      this.message = `${fields.length} of ${edits.length} cells cannot be taken; they are marked.`;
      await this.books.edit([...wanted.values()]);
    } finally {
      this.refused = refused;
    }
  }

  /** Gives the selected rows a fate; deactivated or archived they are from a day on. */
  async fate(fate: Fate): Promise<void> {
    await this.stage(this.selected.map((row) => giveFate(row.id, fate)));
  }

  /** Takes everything back that is staged for the selected rows, or one column of it. */
  async clear(): Promise<void> {
    const edits = this.selected.flatMap((row) => {
      const target = this.books.staged.get(row.id);
      if (row.added || this.column === 'fate') return unstageAll(row.id, target);
      return target?.has(this.column) ? [unstage(row.id, this.column)] : [];
    });
    const refused = new Map(this.refused);
    this.selected.forEach((row) => COLUMNS.forEach((c) => refused.delete(cell(row.id, c))));
    this.refused = refused;
    await this.stage(edits);
  }

  /** Copies the first selected cell into those below it; a code counts on from row to row. */
  async fillDown(): Promise<void> {
    const [first, ...rest] = this.selected;
    if (!first || rest.length === 0) return;
    const column = this.column;
    if (column === 'fate') {
      const fate = this.books.seen(first.id, column);
      if (fate) await this.stage(rest.map((row) => giveFate(row.id, fate)));
      return;
    }
    const value = this.books.seen(first.id, column) ?? first[column];
    const edits = rest.map((row, n) =>
      column === 'code' ? countOn(row.id, value, n + 1) : stage(row.id, { field: column, value }),
    );
    await this.stage(edits);
  }

  /** Pastes a block of cells: one column into the cursor's, two into code and name. */
  async paste(text: string): Promise<void> {
    const lines = text.replace(/\r/g, '').replace(/\n$/, '').split('\n');
    const start = this.range[0];
    const cells: Typed[] = [];
    lines.forEach((line, n) => {
      const row = this.rows[start + n];
      if (!row) return;
      line.split('\t').forEach((text, k) => {
        const column = COLUMNS[this.cursor.column + k];
        if (column && column !== 'fate') cells.push({ row, column, text });
      });
    });
    const over = lines.length - (this.rows.length - start);
    this.anchor = start;
    this.cursor = {
      row: Math.min(start + lines.length, this.rows.length) - 1,
      column: this.cursor.column,
    };
    await this.#take(cells);
    if (over > 0) this.message = `${over} pasted rows lie below the last row and were left out.`;
  }

  selectAll(): void {
    this.anchor = 0;
    this.cursor = { ...this.cursor, row: this.rows.length - 1 };
  }

  escape(): void {
    this.anchor = null;
    if (this.asked === 'card') this.asked = null;
  }

  /** Opens or closes the card of an account, or a heading. */
  showOrFold(): void {
    if (this.current?.kind === 'heading') this.toggle(this.current.id);
    else this.asked = this.asked === 'card' ? null : 'card';
  }

  /** Shows the selected rows and one that they may go into side by side. */
  async sideBySide(into: number): Promise<void> {
    const accounts = [...this.selected.map((row) => row.id), into];
    await goto(`/books/${this.books.id}/merge?accounts=${accounts.join(',')}&into=${into}`);
  }

  /** Carries an action out on the selected rows, or opens what it needs to know. */
  async do(action: RowAction): Promise<void> {
    this.asked = null;
    if (action === 'merge' || action === 'regroup' || action === 'sort' || action === 'add') {
      this.asked = action;
    } else if (action === 'history') {
      if (this.current) await goto(`/books/${this.books.id}/move/${this.current.id}`);
    } else if (action === 'renumber') {
      await goto(`/books/${this.books.id}/renumber`);
    } else if (action === 'clear') {
      await this.clear();
    } else if (action === 'deactivate' || action === 'archive') {
      this.retiring = action;
      this.asked = 'retire';
    } else {
      await this.fate({ fate: action });
    }
  }
}

/** What a text in a cell means. An empty cell is as today. */
function meaning({ row, column, text }: Typed): Edit {
  const value = text.trim();
  const into = /^into\s+(.+)$/i.exec(value)?.[1];
  if (column === 'code' && into) return mergeIntoTyped(row.id, into);
  if (value === '' && !row.added) return unstage(row.id, column);
  return stage(row.id, { field: column, value });
}

/** The cell that an edit was typed into; whom to merge into is typed in place of a code. */
const cellOf = ({ account, wanted }: Edit): string =>
  cell(account, 'merge_into' in wanted ? 'code' : fieldOf(wanted));

/** The text that an edit would put into a cell. */
function typedIn(edit: Edit | undefined): string {
  if (!edit) return '';
  if ('merge_into' in edit.wanted) return `into ${edit.wanted.merge_into}`;
  if ('count_on' in edit.wanted) return edit.wanted.count_on.code;
  const value = 'stage' in edit.wanted ? edit.wanted.stage.value : '';
  return typeof value === 'string' ? value : '';
}

export const [getSheet, setSheet] = createContext<SheetState>();
