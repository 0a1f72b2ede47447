<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, answer, sentence } from '$lib/api/client';
  import { getBooks } from '$lib/books.svelte';
  import { instant } from '$lib/figures';

  const books = getBooks();
  let page = $state(0);
  const PAGE = 100;

  const trail = createQuery(() => ({
    queryKey: ['trail', books.id, page],
    queryFn: ({ signal }) => {
      const params = { path: { books: books.id }, query: { page } };
      return answer(api.GET('/api/books/{books}/trail', { params, signal }));
    },
    placeholderData: keepPreviousData,
  }));
  const rows = $derived(trail.data);
</script>

<main class="paper grow overflow-auto px-11 py-6">
  <h1 class="text-2xl">Trail</h1>
  <p class="text-soft mt-1 mb-4">Who did what, and when. Rows are only ever added.</p>
  {#if trail.error}<p class="text-error" role="alert">{sentence(trail.error)}</p>{/if}
  <table class="ledger max-w-4xl">
    <thead><tr><th>When</th><th>Who</th><th>What</th><th></th></tr></thead>
    <tbody>
      {#each rows ?? [] as row, n (n)}
        <tr>
          <td class="text-soft whitespace-nowrap">{instant(row.at)}</td>
          <td class="whitespace-nowrap">{row.person}</td>
          <td><b class="font-semibold">{row.what}</b> {row.detail}</td>
          <td class="num">
            {#if row.application}
              <a class="link" href="/books/{books.id}/proof/{row.application}">Proof</a>
            {/if}
          </td>
        </tr>
      {:else}
        <tr><td colspan="4" class="text-soft">{rows ? 'Nothing was done yet.' : 'Reading…'}</td></tr
        >
      {/each}
    </tbody>
  </table>
  {#if page > 0 || rows?.length === PAGE}
    <div class="mt-3 flex gap-2">
      <button class="btn btn-sm btn-quiet" disabled={page === 0} onclick={() => (page -= 1)}
        >Later</button
      >
      <button
        class="btn btn-sm btn-quiet"
        disabled={rows?.length !== PAGE}
        onclick={() => (page += 1)}>Earlier</button
      >
    </div>
  {/if}
</main>
