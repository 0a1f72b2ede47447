import adapter from '@sveltejs/adapter-static';

/** @type {import('@sveltejs/kit').Config} */
export default {
  kit: {
    // One page that knows all addresses; the server embeds it and answers with it.
    adapter: adapter({ pages: 'build', fallback: 'index.html' }),
    // The server's own policy names the one inline script by its hash.
    output: { bundleStrategy: 'split' },
  },
};
