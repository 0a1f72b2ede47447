// Which rows the sheet shows, in which order, and what stands on their After side.
import type { BooksState, Row } from '../books.svelte';
import { matches, wordsOf } from '../ui/matches';
import { shortDate } from '../figures';
import { survivorOf, type Fate, type Field, type Target } from '../staging/edits';

/** A row of the sheet: of today's chart, or of an account that the plan adds. */
export type SheetRow = Row & { added?: boolean };

/** Today's outline with the accounts that the plan adds put where they would stand. */
export function outline(books: BooksState): SheetRow[] {
  const rows: SheetRow[] = [...(books.chart?.rows ?? [])];
  const places = new Map(books.plan?.added.map((place) => [place.account, place]));
  const put = (id: number, fields: Target, at: number, depth: number) =>
    rows.splice(at, 0, addedRow(id, fields, depth));
  for (const { account, below, depth } of places.values()) {
    const fields = books.staged.get(account);
    const above = rows.findIndex((row) => row.id === below);
    if (fields) put(account, fields, above + 1, depth);
  }
  // What still lacks its code or name has no place yet, and waits at the top to be filled in.
  for (const [id, fields] of books.staged) {
    if (fields.get('fate')?.fate === 'add' && !places.has(id)) put(id, fields, 0, 0);
  }
  return rows;
}

function addedRow(id: number, fields: Target, depth: number): SheetRow {
  return {
    id,
    added: true,
    code: fields.get('code') ?? '',
    code_proposed: false,
    name: fields.get('name') ?? '',
    description: fields.get('description') ?? '',
    kind: fields.get('kind') ?? 'account',
    class: (fields.get('class') ?? '') as Row['class'],
    caption: fields.get('caption') ?? null,
    parent: fields.get('parent') ?? null,
    depth,
    status: 'active',
    role: null,
    lines: 0,
    last: null,
    strip: '',
    balance: '0.00',
    net_change: '0.00',
    former: [],
    former_names: [],
    status_from: null,
    uses: 0,
    origin: fields.get('origin') ?? null,
  };
}

/** The origin of accounts that came with no file. */
export const BY_HAND = 'hand';

export interface Filter {
  text: string;
  class: string;
  /** Where accounts came from: the number of a file, {@link BY_HAND}, or empty for any. */
  origin: string;
  changesOnly: boolean;
  /** Whether only rows whose code is proposed are shown. */
  proposedOnly: boolean;
  /** The only rows to be shown. */
  picked: ReadonlySet<number> | null;
  closed: ReadonlySet<number>;
  /** Whether rows that take no more lines are shown where nothing is searched for. */
  showRetired: boolean;
}

/** The rows that pass the filter. Without one, rows under a closed heading are left out. */
export function visible(rows: SheetRow[], filter: Filter, books: BooksState): SheetRow[] {
  const words = wordsOf(filter.text);
  const asked =
    words.length > 0 ||
    filter.class !== '' ||
    filter.origin !== '' ||
    filter.changesOnly ||
    filter.proposedOnly ||
    filter.picked;
  if (!asked) {
    const shown = filter.showRetired
      ? rows
      : rows.filter((row) => row.status === 'active' || isTouched(row, books));
    return withoutClosed(shown, filter.closed);
  }
  // Asked once, and not of every row.
  const { class: of, origin, picked, changesOnly, proposedOnly } = filter;
  return rows.filter((row) => {
    if (of && row.class !== of) return false;
    if (origin && String(row.origin ?? BY_HAND) !== origin) return false;
    if (picked && !picked.has(row.id)) return false;
    if (changesOnly && !isTouched(row, books)) return false;
    if (proposedOnly && !row.code_proposed) return false;
    return matches(row, words);
  });
}

/** How many rows have what is sought and are not shown, since they do not pass the other filters. */
export function beyondFilter(rows: SheetRow[], shown: SheetRow[], filter: Filter): number {
  const words = wordsOf(filter.text);
  if (words.length === 0) return 0;
  return rows.filter((row) => matches(row, words)).length - shown.length;
}

function withoutClosed(rows: SheetRow[], closed: ReadonlySet<number>): SheetRow[] {
  if (closed.size === 0) return rows;
  let hiddenBelow = Infinity;
  return rows.filter((row) => {
    if (row.depth > hiddenBelow) return false;
    hiddenBelow = closed.has(row.id) ? row.depth : Infinity;
    return true;
  });
}

function isTouched(row: SheetRow, books: BooksState): boolean {
  return books.staged.has(row.id) || books.crossings.has(row.id) || books.findings.has(row.id);
}

/** The After side of a row. */
export interface After {
  code: string;
  name: string;
  what: string;
  codeIsNew: boolean;
  nameIsNew: boolean;
  state: 'quiet' | 'staged' | 'stopped';
}

const quiet: After = {
  code: '',
  name: '',
  what: '',
  codeIsNew: false,
  nameIsNew: false,
  state: 'quiet',
};

/** The fields that the After side says in words of their own; all others are settings. */
const SAID = new Set<Field>([
  'code',
  'name',
  'class',
  'caption',
  'parent',
  'history',
  'origin',
  'fate',
]);

/** When the fate of an account comes to hold, where that is part of it. */
const fromDay = (fate: Fate): string =>
  'from' in fate && fate.from ? ` from ${shortDate(fate.from, null)}` : '';

const FATES: Record<Fate['fate'], string> = {
  add: 'new',
  merge_into: 'merge',
  deactivate: 'deactivate',
  archive: 'archive',
  restore: 'restore',
  delete: 'delete',
};

export function after(row: SheetRow, books: BooksState): After {
  const staged = books.staged.get(row.id);
  const crossing = books.crossings.get(row.id);
  const findings = books.findings.get(row.id) ?? [];
  const stop = findings.find((f) => f.severity === 'stop' && !f.overridden);
  if (!staged && !crossing && !stop) return quiet;
  const fate = staged?.get('fate');
  const survivor = survivorOf(fate);
  const state = stop ? 'stopped' : 'staged';
  const note = stop?.title ?? '';
  if (survivor !== null) {
    const lines = row.lines === 1 ? '1 line' : `${row.lines.toLocaleString('en-GB')} lines`;
    const into = crossing?.new_code
      ? `${crossing.new_code} ${crossing.new_name}`
      : books.label(survivor);
    const what = note || `merge · ${lines}`;
    return { code: '↳ into', name: into, what, codeIsNew: true, nameIsNew: true, state };
  }
  if (fate?.fate === 'delete') {
    const what = note || 'never used';
    return { code: '✕', name: 'delete', what, codeIsNew: true, nameIsNew: true, state };
  }
  const code = staged?.get('code');
  const name = staged?.get('name');
  const under = staged?.has('parent') ? `under ${headingOf(staged.get('parent'), books)}` : '';
  const sorted = staged?.has('class') || staged?.has('caption') ? 'other class or item' : '';
  const settings = (staged?.fields ?? []).some((field) => !SAID.has(field));
  const reset = fate?.fate !== 'add' && settings ? 'other settings' : '';
  const moved = staged?.has('history') ? historyOf(row, books) : '';
  const rewritten = crossing?.changes.includes('rewritten') ? 'same accounts' : '';
  const words = [
    fate ? FATES[fate.fate] + fromDay(fate) : '',
    under,
    sorted,
    reset,
    moved,
    rewritten,
  ];
  return {
    code: code ?? row.code,
    name: name ?? row.name,
    what: note || words.filter(Boolean).join(' · '),
    codeIsNew: code !== undefined,
    nameIsNew: name !== undefined,
    state,
  };
}

function historyOf(row: SheetRow, books: BooksState): string {
  const parts = books.plan?.report.moved.filter((moved) => moved.from === row.id) ?? [];
  const lines = parts.reduce((sum, part) => sum + part.lines, 0);
  const where =
    parts.length === 1 ? (parts[0]?.to_label.split(' ')[0] ?? '') : `${parts.length} accounts`;
  return `${lines.toLocaleString('en-GB')} lines to ${where}`;
}

function headingOf(parent: number | null | undefined, books: BooksState): string {
  return parent ? books.label(parent) : 'no heading';
}
