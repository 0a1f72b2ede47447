// Entries of the journal, a page behind the other.
import { createInfiniteQuery } from '@tanstack/svelte-query';
import { answer, api } from '../api/client';
import type { EntriesQuery } from './address';

interface Behind {
  after_day: string;
  after_entry: number;
}

/** The entries that are asked for, the latest first. */
export const pagesOfEntries = (books: number, asked: () => Partial<EntriesQuery>) =>
  createInfiniteQuery(() => ({
    queryKey: ['journal', books, asked()],
    queryFn: ({ pageParam, signal }: { pageParam: Behind | null; signal: AbortSignal }) => {
      const given = Object.fromEntries(
        Object.entries(asked()).filter(([, value]) => value !== null),
      );
      const params = { path: { books }, query: { ...given, ...pageParam } };
      return answer(api.GET('/api/books/{books}/journal', { params, signal }));
    },
    initialPageParam: null as Behind | null,
    getNextPageParam: (latest) => {
      const last = latest.entries.at(-1);
      return latest.more && last ? { after_day: last.date, after_entry: last.id } : null;
    },
  }));
