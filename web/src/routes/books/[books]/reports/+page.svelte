<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { answer, api, sentence } from '$lib/api/client';
  import { session } from '$lib/api/session';
  import { getBooks } from '$lib/books.svelte';
  import { getCommands } from '$lib/commands/commands.svelte';
  import StatusBar from '$lib/plan/StatusBar.svelte';
  import { address, asked as read, KINDS, query, type StatementsQuery } from '$lib/reports/query';
  import Choices from '$lib/reports/Choices.svelte';
  import Marked from '$lib/reports/Marked.svelte';
  import { Marks } from '$lib/reports/marks.svelte';
  import StatementTable from '$lib/reports/StatementTable.svelte';
  import TrialTable from '$lib/reports/TrialTable.svelte';
  import Tied from '$lib/reports/Tied.svelte';

  const books = getBooks();
  const me = createQuery(session);
  const asked = $derived(read(page.url.searchParams));

  const marks = new Marks();
  const wanted = $derived(query(asked, books.plan?.id));

  // Whatever the plan becomes meanwhile, the statements are restated by it.
  const statements = createQuery(() => ({
    queryKey: ['statements', books.id, wanted, books.plan?.revision],
    queryFn: ({ signal }: { signal: AbortSignal }) => {
      const params = { path: { books: books.id }, query: wanted };
      return answer(api.GET('/api/books/{books}/reports/statements', { params, signal }));
    },
    placeholderData: keepPreviousData,
  }));
  const trial = createQuery(() => {
    const query = { ...wanted, form: asked.form, zeros: asked.zeros };
    return {
      queryKey: ['trial', books.id, query, books.plan?.revision],
      queryFn: ({ signal }: { signal: AbortSignal }) => {
        const params = { path: { books: books.id }, query };
        return answer(api.GET('/api/books/{books}/reports/trial-balance', { params, signal }));
      },
      placeholderData: keepPreviousData,
      enabled: asked.kind === 'trial_balance',
    };
  });
  const view = $derived(statements.data);
  const error = $derived(statements.error ?? trial.error);
  const problem = $derived(error && sentence(error));
  const statement = $derived(view?.statements.find(({ kind }) => kind === asked.kind));
  const latest = $derived(view?.columns[0]);

  const choose = (to: StatementsQuery) =>
    goto(address(to), { replaceState: true, keepFocus: true, noScroll: true });

  function file(ending: string): string {
    const pairs = Object.entries(wanted).map(([name, value]) => [name, String(value)]);
    const query = new URLSearchParams(pairs);
    if (asked.kind === 'trial_balance') {
      query.set('form', asked.form);
      query.set('zeros', String(asked.zeros));
    }
    return `/api/books/${books.id}/reports/files/${asked.kind}.${ending}?${query}`;
  }

  getCommands().offer({
    title: 'Statements',
    rank: 0,
    commands: [
      {
        name: 'Clear the marks',
        cannot: () => (marks.items.size + marks.accounts.size ? '' : 'nothing is marked'),
        run: () => marks.clear(),
      },
    ],
    notes: [
      ['↑ ↓', 'from row to row'],
      ['→ ←', 'open and close a row: its accounts, and the months of those'],
      ['Space', 'mark an item or an account, to merge it with another'],
    ],
  });
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
      <a class="link order-2 ml-auto" href="/books/{books.id}/items">Statement items</a>
    </div>
    {#if problem}<p class="text-error mt-4" role="alert">{problem}</p>{/if}
    {#if !view}
      {#if !problem}<p class="text-soft mt-6">Adding up the years…</p>{/if}
    {:else if !latest}
      <p class="text-soft mt-6">
        Nothing was posted yet. <a class="link" href="/books/{books.id}/import">Import a journal</a
        >.
      </p>
    {:else}
      <div class="mt-2 mb-3 print:hidden">
        <Choices
          {asked}
          until={latest.until}
          reading={view.reading}
          planned={books.plan !== null}
          {choose}
        />
      </div>
      <div class="min-h-0 grow overflow-auto pb-6">
        {#if statement}
          <Marked {marks} columns={view.columns} />
          <StatementTable {statement} {view} query={wanted} {marks} by={me.data?.name ?? ''} />
        {:else if trial.data}
          <TrialTable trial={trial.data} by={me.data?.name ?? ''} />
        {:else if !problem}<p class="text-soft">Adding up the accounts…</p>{/if}
      </div>
    {/if}
  </div>
  {#if view && latest}
    <Tied
      {view}
      {statement}
      planned={books.plan !== null}
      {file}
      read={(reading) => choose({ ...asked, reading })}
    />
  {/if}
</main>
<StatusBar />
