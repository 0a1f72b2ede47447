// What the server knows, as far as it was asked: each thing is asked for once however many show it, an
// answer that came too late is dropped, and what nobody shows any more is no longer waited for.
import { createQuery, QueryClient, type QueryKey } from '@tanstack/svelte-query';

export const queries = new QueryClient({
  defaultOptions: {
    // A refusal has a reason, which is said; asking again by itself would only hide it. So is a lost
    // connection: a browser that believes to be offline asks all the same and does not wait in silence.
    queries: {
      networkMode: 'always',
      retry: false,
      refetchOnWindowFocus: false,
      refetchOnReconnect: false,
      // What is read only once something else is there, which may be later, is told of all the same.
      notifyOnChangeProps: 'all',
    },
  },
});

/** All pages of a list, asked for one after the other and shown once they are there. */
export function pagesOf<Page extends { pages: number }>(
  key: () => QueryKey,
  ask: (page: number, signal: AbortSignal) => Promise<Page>,
  wanted: () => boolean = () => true,
) {
  return createQuery(() => ({
    queryKey: key(),
    queryFn: async ({ signal }) => {
      const first = await ask(0, signal);
      const pages = [first];
      while (pages.length < first.pages) pages.push(await ask(pages.length, signal));
      return pages;
    },
    enabled: wanted(),
  }));
}
