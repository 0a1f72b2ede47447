// A file that waits to be agreed to, and how it is read.
import { api, answer, sentence, type Schemas } from '../api/client';

export type ImportView = Schemas['ImportView'];
export type Choices = Schemas['Choices'];
export type CodeMeans = Schemas['CodeMeans'];

export class WaitingFile {
  looked = $state.raw<ImportView | null>(null);
  /** What is being done just now, in words; empty when nothing is. */
  busy = $state('');
  problem = $state('');
  readonly books: number;
  /** The file itself, as long as the page is open. */
  source: File | null = null;

  readonly corrected = $derived(
    new Map(this.looked?.choices.corrections.map((c) => [`${c.row} ${c.at}`, c.text]) ?? []),
  );

  constructor(books: number) {
    this.books = books;
  }

  async during(words: string, work: () => Promise<unknown>): Promise<void> {
    this.busy = words;
    this.problem = '';
    try {
      await work();
    } catch (error) {
      this.problem = sentence(error);
    } finally {
      this.busy = '';
    }
  }

  path() {
    return { params: { path: { books: this.books, import: this.looked?.id ?? 0 } } };
  }

  bring(kind: string, file: File): Promise<void> {
    this.source = file;
    return this.during(`Reading ${file.name}…`, async () => {
      const form = new FormData();
      form.set('kind', kind);
      form.set('file', file);
      this.looked = await answer(
        api.POST('/api/books/{books}/imports', {
          params: { path: { books: this.books } },
          body: form as never,
          bodySerializer: (body) => body,
        }),
      );
    });
  }

  /** Shows a file that was brought before. */
  open(id: number): Promise<void> {
    return this.during('Reading the file…', async () => {
      const path = { params: { path: { books: this.books, import: id } } };
      this.looked = await answer(api.GET('/api/books/{books}/imports/{import}', path));
    });
  }

  /** Chooses how the file is read; the rest stays as it was chosen before. */
  async choose(change: Partial<Choices>): Promise<void> {
    const before = this.looked;
    if (!before) return;
    await this.during('Reading it anew…', async () => {
      const body = { ...before.choices, ...change };
      this.looked = await answer(
        api.PUT('/api/books/{books}/imports/{import}', { ...this.path(), body }),
      );
    });
  }

  /** Reads a cell as something else than what stands in it. */
  correct(row: number, at: number, text: string): Promise<void> {
    const others = this.looked?.choices.corrections.filter((c) => c.row !== row || c.at !== at);
    return this.choose({ corrections: [...(others ?? []), { row, at, text }] });
  }

  leave(): Promise<void> {
    return this.during('Dropping the file…', async () => {
      await answer(api.DELETE('/api/books/{books}/imports/{import}', this.path()));
      this.looked = null;
    });
  }
}
