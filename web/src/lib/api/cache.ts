// Answers that have a tag are kept in memory while one works: asked for again, the server only says that
// nothing changed. The browser itself keeps nothing of anybody's books.
import type { Middleware } from 'openapi-fetch';

/** How many answers are kept; what was asked for least lately goes first. */
const KEPT = 60;

/**
 * Answers known by their addresses, each with its tag. They are kept as texts that were read to their end:
 * what a request that was given up had read by then is no answer.
 */
export function remembering(): Middleware {
  const known = new Map<string, { tag: string; body: string; type: string }>();
  return {
    onRequest({ request }) {
      const one = request.method === 'GET' ? known.get(request.url) : undefined;
      if (one) request.headers.set('If-None-Match', one.tag);
      return request;
    },
    async onResponse({ request, response }) {
      const { url } = request;
      const one = known.get(url);
      if (response.status === 304 && one) {
        known.delete(url);
        known.set(url, one);
        return new Response(one.body, { headers: { 'Content-Type': one.type } });
      }
      const tag = response.headers.get('ETag');
      if (request.method !== 'GET' || !response.ok || !tag) return undefined;
      const body = await response.text();
      const type = response.headers.get('Content-Type') ?? 'application/json';
      known.set(url, { tag, body, type });
      for (const oldest of known.keys()) {
        if (known.size <= KEPT) break;
        known.delete(oldest);
      }
      return new Response(body, { status: response.status, headers: response.headers });
    },
  };
}
