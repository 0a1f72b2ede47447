// Who is signed in.
import { writeAs } from '../forms.svelte';
import { answer, api } from './client';

/** Asks who it is, for as long as they work. */
export const session = () => ({
  queryKey: ['session'],
  queryFn: async ({ signal }: { signal: AbortSignal }) => {
    const me = await answer(api.GET('/api/session', { signal }));
    writeAs(me);
    return me;
  },
  staleTime: 60_000,
});
