// The state of renumbering: the rule as it is being said, for whom, and what comes of it.
import { createContext } from 'svelte';
import { Attempt } from '../api/attempt.svelte';
import { Asking } from '../api/debounce';
import { api, answer, type Schemas } from '../api/client';
import type { BooksState } from '../books.svelte';
import { stage } from '../staging/edits';

export type Preview = Schemas['NumberingView'];
export type ScopeKind = 'under' | 'accounts' | 'class' | 'codes' | 'words' | 'all';
export type RuleKind = 'spread' | 'fit' | 'replace' | 'insert' | 'remove' | 'pad' | 'affix';
export type Order = 'code' | 'name' | 'balance';

const isChange = ({ from, to }: Preview['codes'][number]) => from !== to;

export class NumberingState {
  readonly books: BooksState;
  scopeKind = $state<ScopeKind>('all');
  heading = $state(0);
  accounts = $state.raw<number[]>([]);
  class = $state<Schemas['Class']>('expense');
  codes = $state('');
  words = $state('');
  ruleKind = $state<RuleKind>('spread');
  start = $state('');
  step = $state(10);
  gap = $state(0);
  fitStep = $state<number | null>(null);
  order = $state<Order>('code');
  /** `whole`, `segment`, or `characters`. */
  piece = $state<'whole' | 'segment' | 'characters'>('characters');
  segment = $state(1);
  from = $state(1);
  count = $state(2);
  reads = $state('');
  text = $state('');
  width = $state(6);
  front = $state(false);
  prefix = $state('');
  suffix = $state('');
  copying = $state(false);
  nameReads = $state('');
  nameWith = $state('');
  preview = $state.raw<Preview | null>(null);
  readonly asking = new Asking();
  readonly staging = new Attempt();

  readonly changing = $derived(this.preview?.codes.filter(isChange) ?? []);
  readonly stops = $derived(this.preview?.findings.filter((f) => f.severity === 'stop') ?? []);

  constructor(books: BooksState) {
    this.books = books;
  }

  /** Whether enough is said for the rule to be asked. */
  readonly said = $derived.by(() => {
    const scope = {
      under: this.heading !== 0,
      accounts: this.accounts.length > 0,
      class: true,
      codes: this.codes.trim() !== '',
      words: this.words.trim() !== '',
      all: true,
    }[this.scopeKind];
    const rule = {
      spread: this.start.trim() !== '',
      fit: true,
      replace: this.text !== '' || this.reads !== '',
      insert: this.text !== '',
      remove: this.piece !== 'whole',
      pad: this.width > 0,
      affix: this.prefix !== '' || this.suffix !== '',
    }[this.ruleKind];
    return scope && rule;
  });

  #scope(): Schemas['ScopeForm'] {
    switch (this.scopeKind) {
      case 'under':
        return { under: this.heading };
      case 'accounts':
        return { accounts: [...this.accounts] };
      case 'class':
        return { class: this.class };
      case 'codes':
        return { codes: this.codes };
      case 'words':
        return { words: this.words };
      case 'all':
        return 'all';
    }
  }

  #rewrite(edit: Schemas['CodeEditForm']): Schemas['RuleForm'] {
    const pieces: Record<typeof this.piece, Schemas['PieceForm']> = {
      whole: 'whole',
      segment: { segment: this.segment },
      characters: { characters: { from: this.from, count: this.count } },
    };
    return { rewrite: { piece: pieces[this.piece], edit } };
  }

  #rule(): Schemas['RuleForm'] {
    const { order } = this;
    switch (this.ruleKind) {
      case 'spread':
        return { spread: { start: this.start, step: this.step || 1, gap: this.gap || 0, order } };
      case 'fit':
        return { fit: { step: this.fitStep || null, order } };
      case 'replace':
        return this.#rewrite({ replace: { reads: this.reads, with: this.text } });
      case 'insert':
        return this.#rewrite({ insert: this.text });
      case 'remove':
        return this.#rewrite('remove');
      case 'pad':
        return this.#rewrite({ pad: { width: this.width || 0, front: this.front } });
      case 'affix':
        return { affix: { prefix: this.prefix, suffix: this.suffix } };
    }
  }

  #scoped(): Schemas['ScopedRule'] {
    const copying = this.copying ? { reads: this.nameReads, with: this.nameWith } : null;
    return { scope: this.#scope(), rule: this.#rule(), copying };
  }

  /** Asks anew what the rule does, once typing rests. */
  changed(): void {
    this.asking.soon(() => void this.#ask());
  }

  /** What the rule does, shown unless something newer was asked meanwhile. */
  #ask(): Promise<Preview | null> {
    const params = { path: { books: this.books.id } };
    const body = { plan: this.books.plan?.id ?? null, rule: this.said ? this.#scoped() : null };
    return this.asking.latest(
      () => answer(api.POST('/api/books/{books}/numbering', { params, body })),
      (preview) => (this.preview = preview),
    );
  }

  /** Stages the codes that change, or the new accounts. */
  stage(): Promise<void> {
    return this.staging.run(async () => {
      if (this.copying) {
        await this.books.copy(this.#scoped());
        this.copying = false;
      } else {
        // Of what is said now, even if it was changed a moment ago and is not shown yet.
        const preview = await this.#ask();
        const codes = preview?.codes.filter(isChange) ?? [];
        await this.books.edit(
          codes.map(({ account, to }) => stage(account, { field: 'code', value: to })),
        );
      }
      await this.#ask();
    });
  }
}

export const [getNumbering, setNumbering] = createContext<NumberingState>();
