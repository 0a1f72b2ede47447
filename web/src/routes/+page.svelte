<script lang="ts">
  import { goto } from '$app/navigation';
  import { createQuery } from '@tanstack/svelte-query';
  import { api, answer } from '$lib/api/client';
  import { session } from '$lib/api/session';
  import BooksOfList from '$lib/start/BooksOfList.svelte';
  import Front from '$lib/start/Front.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { Attempt } from '$lib/api/attempt.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const me = createQuery(session);
  const listed = createQuery(() => ({
    queryKey: ['books'],
    queryFn: ({ signal }) => answer(api.GET('/api/books', { signal })),
  }));
  const books = $derived(listed.data);
  let opening = $state(false);
  const attempt = new Attempt();
  let form = $state({ name: '', currency: 'GBP', year_month: 1, year_day: 1 });
  const MONTHS = Array.from({ length: 12 }, (_, n) =>
    new Date(2026, n, 1).toLocaleString('en-GB', { month: 'long' }),
  );

  async function create(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      const { id } = await answer(api.POST('/api/books', { body: form }));
      await goto(`/books/${id}/import`);
    });
  }
</script>

<Front title="Books">
  <main class="mx-auto w-full max-w-4xl overflow-auto p-6">
    <div class="mb-4 flex items-end justify-between">
      <h1 class="text-2xl">Your books</h1>
      {#if me.data?.administrator}
        <button class="btn btn-primary" onclick={() => (opening = true)}>Open new books</button>
      {/if}
    </div>
    <Problem asked={listed.error} class="mb-3" />
    <div class="paper divide-rule divide-y">
      {#each books ?? [] as one (one.id)}
        <BooksOfList {one} />
      {:else}
        <p class="text-soft px-5 py-8 text-center">
          {#if !books}Reading…{:else if me.data?.administrator}No books yet. Open new ones, then
            import a chart and its journal.{:else}You are not a member of any books yet.{/if}
        </p>
      {/each}
    </div>
  </main>
</Front>

{#if opening}
  <Dialog title="Open new books" close={() => (opening = false)}>
    <form class="grid grid-cols-[8rem_1fr] items-center gap-3" onsubmit={create}>
      <label for="name">Company</label>
      <!-- svelte-ignore a11y_autofocus -->
      <input id="name" class="input w-full" required autofocus bind:value={form.name} />
      <label for="currency">Base currency</label>
      <input
        id="currency"
        class="input w-24 uppercase"
        required
        maxlength="3"
        bind:value={form.currency}
      />
      <label for="day">Fiscal year from</label>
      <div class="flex gap-2">
        <input
          id="day"
          class="input w-20"
          type="number"
          min="1"
          max="28"
          required
          bind:value={form.year_day}
        />
        <select class="select" aria-label="Month" bind:value={form.year_month}>
          {#each MONTHS as month, n (month)}<option value={n + 1}>{month}</option>{/each}
        </select>
      </div>
      <Problem of={attempt} class="col-span-2" />
      <button class="btn btn-primary col-span-2 justify-self-end">Open the books</button>
    </form>
  </Dialog>
{/if}
