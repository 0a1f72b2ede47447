// The server embeds one page; everything else happens in the browser.
export const ssr = false;
export const prerender = false;
