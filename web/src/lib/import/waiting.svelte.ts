// A file that waits to be agreed to, and how it is read.
import { Attempt } from '../api/attempt.svelte';
import { api, answer, type Schemas } from '../api/client';
import { InOrder } from '../api/sequence';

export type ImportView = Schemas['ImportView'];
type Progress = Schemas['ProgressView'];
export type Choices = Schemas['Choices'];
export type CodeMeans = Schemas['CodeMeans'];

/** How often it is asked how far the server is with a large file. */
const POLL_MS = 400;

export class WaitingFile {
  looked = $state.raw<ImportView | null>(null);
  /** What is being done just now, in words; empty when nothing is. */
  busy = $state('');
  readonly attempt = new Attempt();
  /** How far the server is, while it reads or stores a large file. */
  progress = $state.raw<Progress | null>(null);
  stopping = $state(false);
  readonly books: number;
  readonly #choices = new InOrder();
  /** The file itself, as long as the page is open. */
  source: File | null = null;

  readonly corrected = $derived(
    new Map(this.looked?.choices.corrections.map((c) => [`${c.row} ${c.at}`, c.text]) ?? []),
  );

  constructor(
    books: number,
    /** Called when a file was stored while somebody waited for it. */
    readonly stored: (rows: number, name: string) => void,
  ) {
    this.books = books;
  }

  async during(words: string, work: () => Promise<unknown>): Promise<void> {
    this.busy = words;
    await this.attempt.run(work);
    this.busy = '';
  }

  path() {
    return { params: { path: { books: this.books, import: this.looked?.id ?? 0 } } };
  }

  /** What came of a step, which a large file makes one wait for. */
  private async follow<T extends object>(
    call: Promise<{ data?: T | Progress; error?: unknown; response: Response }>,
  ): Promise<T | Progress> {
    const first = await answer(call);
    if (!('rows_read' in first)) return first;
    const path = { params: { path: { books: this.books, import: first.id } } };
    let progress = first;
    try {
      while (progress.state === 'underway') {
        this.progress = progress;
        await new Promise((resolve) => setTimeout(resolve, POLL_MS));
        progress = await answer(api.GET('/api/books/{books}/imports/{import}/progress', path));
      }
    } finally {
      this.progress = null;
      this.stopping = false;
    }
    if (progress.state === 'done') return progress;
    const stopped = progress.state === 'cancelled';
    if (stopped && !progress.storing && !this.looked) {
      await answer(api.DELETE('/api/books/{books}/imports/{import}', path));
      throw new Error('Stopped; the file was dropped.');
    }
    // It waits on, as it was.
    if (progress.storing) {
      this.looked ??= await this.seen(api.GET('/api/books/{books}/imports/{import}', path));
    }
    throw new Error(
      stopped ? 'Stopped; nothing of it was stored.' : (progress.message ?? 'It failed.'),
    );
  }

  /** What a file would import. */
  private async seen(
    call: Promise<{ data?: ImportView | Progress; error?: unknown; response: Response }>,
  ): Promise<ImportView | null> {
    const found = await this.follow(call);
    if (!('rows_read' in found)) return found;
    if (found.stored != null) {
      this.stored(found.stored, found.file_name);
      return null;
    }
    const path = { params: { path: { books: this.books, import: found.id } } };
    return this.seen(api.GET('/api/books/{books}/imports/{import}', path));
  }

  /** Stores all that is ready, and says how many rows that was. */
  async store(body: Schemas['AgreeForm']): Promise<number> {
    const done = await this.follow(
      api.POST('/api/books/{books}/imports/{import}', { ...this.path(), body }),
    );
    return 'rows' in done ? done.rows : (done.stored ?? 0);
  }

  /** Stops what the server does with the file. */
  async stop(): Promise<void> {
    const id = this.progress?.id;
    if (!id) return;
    this.stopping = true;
    const path = { params: { path: { books: this.books, import: id } } };
    await answer(api.DELETE('/api/books/{books}/imports/{import}/progress', path));
  }

  /** Brings a file in; where nobody chose what it is, as what it looks like. */
  async bring(kind: string, file: File, chosen = true): Promise<void> {
    await this.#bring(kind, file);
    const seems = this.looked?.looks_like;
    if (!chosen && seems && seems !== kind) await this.readAs(seems);
  }

  /** Drops what is looked at and brings the same file in as something else. */
  async readAs(kind: string): Promise<void> {
    const source = this.source;
    if (!source) return;
    await this.leave();
    await this.#bring(kind, source);
  }

  #bring(kind: string, file: File): Promise<void> {
    this.source = file;
    return this.during(`Reading ${file.name}…`, async () => {
      const form = new FormData();
      form.set('kind', kind);
      form.set('file', file);
      this.looked = await this.seen(
        api.POST('/api/books/{books}/imports', {
          params: { path: { books: this.books } },
          body: form as never,
          bodySerializer: (body) => body,
        }),
      );
    });
  }

  /** Shows a file that was brought before, or what the server does with it just now. */
  open(id: number): Promise<void> {
    return this.during('Reading the file…', async () => {
      const path = { params: { path: { books: this.books, import: id } } };
      const now = await answer(api.GET('/api/books/{books}/imports/{import}/progress', path));
      if (now.stored != null) this.stored(now.stored, now.file_name);
      else this.looked = await this.seen(api.GET('/api/books/{books}/imports/{import}', path));
    });
  }

  /**
   * Reads the file as somebody chose. One choice follows the other, each made of what the one before
   * came to: two at once would undo each other.
   */
  choose(change: Partial<Choices> | ((now: Choices) => Partial<Choices>)): Promise<void> {
    return this.#choices.run(() =>
      this.during('Reading it anew…', async () => {
        const now = this.looked?.choices;
        if (!now) return;
        const body = { ...now, ...(typeof change === 'function' ? change(now) : change) };
        this.looked = await this.seen(
          api.PUT('/api/books/{books}/imports/{import}', { ...this.path(), body }),
        );
      }),
    );
  }

  /** Reads a cell as something else than what stands in it. */
  correct(row: number, at: number, text: string): Promise<void> {
    return this.choose(({ corrections }) => ({
      corrections: [...corrections.filter((c) => c.row !== row || c.at !== at), { row, at, text }],
    }));
  }

  leave(): Promise<void> {
    return this.during('Dropping the file…', async () => {
      await answer(api.DELETE('/api/books/{books}/imports/{import}', this.path()));
      this.looked = null;
    });
  }
}
