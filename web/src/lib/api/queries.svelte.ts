// What the server knows, as far as it was asked: each thing is asked for once however many show it, an
// answer that came too late is dropped, and what nobody shows any more is no longer waited for.
import { createInfiniteQuery, QueryClient, type QueryKey } from '@tanstack/svelte-query';

export const queries = new QueryClient({
  defaultOptions: {
    // A refusal has a reason, which is said; asking again by itself would only hide it.
    queries: { retry: false, refetchOnWindowFocus: false, refetchOnReconnect: false },
  },
});

/** All pages of a list, asked for one after the other; what is there is shown meanwhile. */
export function pagesOf<Page extends { pages: number }>(
  key: () => QueryKey,
  ask: (page: number, signal: AbortSignal) => Promise<Page>,
  wanted: () => boolean = () => true,
) {
  const query = createInfiniteQuery(() => ({
    queryKey: key(),
    queryFn: ({ pageParam, signal }) => ask(pageParam, signal),
    initialPageParam: 0,
    getNextPageParam: (last: Page, all: Page[]) =>
      all.length < last.pages ? all.length : undefined,
    enabled: wanted(),
  }));
  $effect(() => {
    if (query.hasNextPage && !query.isFetching) void query.fetchNextPage();
  });
  return query;
}
