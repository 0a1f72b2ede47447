// The settings of the books, and what a change of one does.
import { createContext } from 'svelte';
import { createQuery } from '@tanstack/svelte-query';
import { answer, api, type Schemas } from '../api/client';
import { queries } from '../api/queries';
import type { BooksState } from '../books.svelte';

export type Setting = Schemas['SettingForm'];

export class SettingsState {
  readonly #asked;
  readonly #params;

  constructor(readonly books: BooksState) {
    this.#params = { path: { books: books.id } };
    this.#asked = createQuery(() => ({
      queryKey: ['settings', books.id],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        answer(api.GET('/api/books/{books}/settings', { params: this.#params, signal })),
    }));
  }

  get shown(): Schemas['SettingsView'] | undefined {
    return this.#asked.data;
  }

  get problem(): unknown {
    return this.#asked.error;
  }

  may(what: Schemas['Capability']): boolean {
    return this.shown?.may.includes(what) ?? false;
  }

  /** What a change would do to the figures that are shown. */
  preview(body: Setting): Promise<Schemas['SettingPreview']> {
    return answer(api.POST('/api/books/{books}/settings', { params: this.#params, body }));
  }

  async change(body: Setting): Promise<void> {
    await answer(api.PUT('/api/books/{books}/settings', { params: this.#params, body }));
    await this.again();
  }

  async lock(until: string): Promise<void> {
    await answer(api.PUT('/api/books/{books}/lock', { params: this.#params, body: { until } }));
    await this.again();
  }

  async unlock(until: string | null, reason: string): Promise<void> {
    const body = { until, reason };
    await answer(api.POST('/api/books/{books}/lock', { params: this.#params, body }));
    await this.again();
  }

  async archive(archived: boolean): Promise<void> {
    const body = { archived };
    await answer(api.PUT('/api/books/{books}/archived', { params: this.#params, body }));
    await this.again();
  }

  async delete(name: string): Promise<void> {
    const body = { name };
    await answer(api.POST('/api/books/{books}/deletion', { params: this.#params, body }));
    queries.clear();
  }

  async again(): Promise<void> {
    await queries.invalidateQueries({ queryKey: ['settings', this.books.id] });
    await this.books.load();
  }
}

export const [getSettings, setSettings] = createContext<SettingsState>();
