<script lang="ts">
  import { goto } from '$app/navigation';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { answer, api, sentence, type Schemas } from '$lib/api/client';
  import { getBooks } from '$lib/books.svelte';
  import { plural } from '$lib/figures';
  import Hem from '$lib/plan/Hem.svelte';
  import Comparative from '$lib/reports/Comparative.svelte';
  import { getSheet } from '$lib/sheet/sheet.svelte';

  const books = getBooks();
  const sheet = getSheet();
  let years = $state(3);
  let shown = $state<'all' | 'changes' | 'retired'>('all');
  let whole = $state(false);

  /** More rows than these are drawn only when they are asked for. */
  const MANY = 2_000;

  // Whatever the plan becomes meanwhile, the years are restated by it.
  const asked = createQuery(() => ({
    queryKey: ['years', books.id, years, books.plan?.id, books.plan?.revision],
    queryFn: ({ signal }) => {
      const params = { path: { books: books.id }, query: { plan: books.plan?.id, years } };
      return answer(api.GET('/api/books/{books}/reports/years', { params, signal }));
    },
    placeholderData: keepPreviousData,
  }));
  const told = $derived(asked.data);
  const problem = $derived(asked.error && sentence(asked.error));

  const isChange = (row: Schemas['ComparedView']) =>
    row.figures.some(({ today, after }) => today !== after);
  const rows = $derived(
    (told?.rows ?? []).filter(
      (row) =>
        shown === 'all' ||
        (shown === 'changes'
          ? isChange(row)
          : row.note === 'archived' || row.note === 'deactivated'),
    ),
  );

  async function show(account: number) {
    sheet.reveal(account);
    await goto(`/books/${books.id}/chart`);
  }
</script>

<main class="paper flex min-h-0 grow flex-col overflow-hidden rounded-b-none! px-11 pt-6">
  <div class="flex flex-wrap items-end gap-x-5 gap-y-2">
    <div class="grow">
      <h1 class="text-3xl">Years compared</h1>
      <p class="text-soft mt-1">
        Balances at the end of each year; income and expense of the year.
        {books.plan
          ? `Figures are as “${books.plan.name}” would restate them.`
          : 'Whoever had amounts in one of the years is listed, retired or not.'}
      </p>
    </div>
    <a class="link pb-1" href="/books/{books.id}/lines">Lines of the statements</a>
    <label class="flex items-center gap-2">
      Years
      <select class="select select-sm w-16" bind:value={years}>
        {#each [2, 3, 4, 6] as n (n)}<option value={n}>{n}</option>{/each}
      </select>
    </label>
    <label class="flex items-center gap-2">
      Show
      <select class="select select-sm w-52" bind:value={shown}>
        <option value="all">every account</option>
        {#if books.plan}<option value="changes">those whose figures change</option>{/if}
        <option value="retired">deactivated and archived</option>
      </select>
    </label>
  </div>
  {#if problem}<p class="text-error mt-4" role="alert">{problem}</p>{/if}
  {#if !told}
    {#if !problem}<p class="text-soft mt-6">Adding up the years…</p>{/if}
  {:else if told.years.length === 0}
    <p class="text-soft mt-6">
      Nothing was posted yet. <a class="link" href="/books/{books.id}/import">Bring a journal in</a
      >.
    </p>
  {:else}
    <p class="hint mt-3 mb-1">
      {rows.length
        ? plural(rows.length, 'account')
        : `No ${shown === 'changes' ? 'figure of these years changes' : 'retired account had amounts in these years'}; the totals of all accounts are below.`}
    </p>
    <div class="min-h-0 grow overflow-auto pb-6">
      <Comparative {told} rows={whole ? rows : rows.slice(0, MANY)} {show} />
      {#if !whole && rows.length > MANY}
        <button class="btn btn-sm btn-quiet mt-3" onclick={() => (whole = true)}
          >Show the other {plural(rows.length - MANY, 'account')}</button
        >
      {/if}
    </div>
  {/if}
</main>
<Hem />
