// Who is signed in.
import { answer, api } from './client';

/** Asks who it is, for as long as they work. */
export const session = () => ({
  queryKey: ['session'],
  queryFn: ({ signal }: { signal: AbortSignal }) => answer(api.GET('/api/session', { signal })),
  staleTime: 60_000,
});
