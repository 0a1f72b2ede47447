// The server, with the types that are generated from its own.
import { goto } from '$app/navigation';
import createClient, { type Middleware } from 'openapi-fetch';
import { remembering } from './cache';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];

export const api = createClient<paths>({ baseUrl: '/' });

/** Whoever's session has ended signs in anew, whatever they asked for. */
const expiring: Middleware = {
  async onResponse({ request, response }) {
    const signsIn = request.method === 'POST' && request.url.endsWith('/api/session');
    if (response.status === 401 && !signsIn) await goto('/sign-in');
  },
};
api.use(remembering(), expiring);

/** What the server answers when it cannot do what was asked. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const unreachable: Problem = {
  status: 0,
  code: 'outcome_unknown',
  detail: 'The server did not answer; look whether this was done before you do it again.',
};

/** The answer to a call, or a {@link Refusal}. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call.catch(() => {
    throw new Refusal(unreachable);
  });
  if (response.ok) return data as T;
  const problem = error as Partial<Problem> | undefined;
  throw new Refusal(
    problem?.detail ? (problem as Problem) : { ...unreachable, status: response.status },
  );
}

/** What to say of anything that went wrong; with the number by which the log knows it, if it is a fault. */
export function sentence(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  const said = text.charAt(0).toUpperCase() + text.slice(1);
  const problem = error instanceof Refusal ? error.problem : null;
  return problem?.request && problem.status >= 500
    ? `${said} (The log knows this as ${problem.request}.)`
    : said;
}
