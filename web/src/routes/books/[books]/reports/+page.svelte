<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { answer, api, sentence } from '$lib/api/client';
  import { session } from '$lib/api/session';
  import { getBooks } from '$lib/books.svelte';
  import Hem from '$lib/plan/Hem.svelte';
  import { address, asked as read, KINDS, type Asked } from '$lib/reports/asked';
  import Choices from '$lib/reports/Choices.svelte';
  import StatementTable from '$lib/reports/StatementTable.svelte';
  import Tied from '$lib/reports/Tied.svelte';
  import { getSheet } from '$lib/sheet/sheet.svelte';

  const books = getBooks();
  const sheet = getSheet();
  const me = createQuery(session);
  const asked = $derived(read(page.url.searchParams));

  // Whatever the plan becomes meanwhile, the statements are restated by it.
  const statements = createQuery(() => {
    const { span, beside, count } = asked;
    const [until, reading] = [asked.until ?? undefined, asked.reading ?? undefined];
    const query = { plan: books.plan?.id, span, beside, count, until, reading };
    return {
      queryKey: ['statements', books.id, query, books.plan?.revision],
      queryFn: ({ signal }: { signal: AbortSignal }) => {
        const params = { path: { books: books.id }, query };
        return answer(api.GET('/api/books/{books}/reports/statements', { params, signal }));
      },
      placeholderData: keepPreviousData,
    };
  });
  const told = $derived(statements.data);
  const problem = $derived(statements.error && sentence(statements.error));
  const statement = $derived(told?.statements.find(({ kind }) => kind === asked.kind));
  const latest = $derived(told?.columns[0]);

  const choose = (to: Asked) =>
    goto(address(to), { replaceState: true, keepFocus: true, noScroll: true });

  function file(ending: string): string {
    const { kind, span, beside, count, until, reading } = asked;
    const query = new URLSearchParams({ span, beside, count: String(count) });
    if (until) query.set('until', until);
    if (reading) query.set('reading', reading);
    if (books.plan) query.set('plan', String(books.plan.id));
    return `/api/books/${books.id}/reports/files/${kind}.${ending}?${query}`;
  }

  async function show(account: number) {
    sheet.reveal(account);
    await goto(`/books/${books.id}/chart`);
  }
</script>

<main class="paper flex min-h-0 grow overflow-hidden rounded-b-none! print:block">
  <div class="flex min-w-0 grow flex-col px-11 pt-6">
    <div class="flex flex-wrap items-baseline gap-x-6 gap-y-2 print:hidden">
      {#each KINDS as [kind, words] (kind)}
        {#if kind === asked.kind}<h1 class="text-2xl">{words}</h1>
        {:else}<button class="link order-1" onclick={() => choose({ ...asked, kind })}
            >{words}</button
          >{/if}
      {/each}
      <a class="link order-2 ml-auto" href="/books/{books.id}/lines">Lines of the statements</a>
    </div>
    {#if problem}<p class="text-error mt-4" role="alert">{problem}</p>{/if}
    {#if !told}
      {#if !problem}<p class="text-soft mt-6">Adding up the years…</p>{/if}
    {:else if !latest || !statement}
      <p class="text-soft mt-6">
        Nothing was posted yet. <a class="link" href="/books/{books.id}/import"
          >Bring a journal in</a
        >.
      </p>
    {:else}
      <div class="mt-2 mb-3 print:hidden">
        <Choices
          {asked}
          until={latest.until}
          reading={told.reading}
          planned={books.plan !== null}
          {choose}
        />
      </div>
      <div class="min-h-0 grow overflow-auto pb-6">
        <StatementTable
          {statement}
          columns={told.columns}
          spans={asked.kind === 'income_statement'}
          by={me.data?.name ?? ''}
          {show}
        />
      </div>
    {/if}
  </div>
  {#if told && latest && statement}
    <Tied
      {told}
      {statement}
      planned={books.plan !== null}
      {file}
      {show}
      read={(reading) => choose({ ...asked, reading })}
    />
  {/if}
</main>
<Hem />
