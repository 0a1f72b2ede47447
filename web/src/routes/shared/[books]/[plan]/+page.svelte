<!-- The one plan that a guest may see: what it would do, and nothing else of the books. -->
<script lang="ts">
  import { page } from '$app/state';
  import { createQuery } from '@tanstack/svelte-query';
  import { answer, api, sentence } from '$lib/api/client';
  import { pagesOf } from '$lib/api/queries';
  import { BooksState, setBooks } from '$lib/books.svelte';
  import { count, isZero, signed } from '$lib/figures';
  import Crosswalk from '$lib/plan/Crosswalk.svelte';
  import TrialBalance from '$lib/plan/TrialBalance.svelte';
  import Front from '$lib/start/Front.svelte';
  import FindingText from '$lib/ui/FindingText.svelte';

  const books = Number(page.params.books);
  const plan = Number(page.params.plan);
  const path = { books, plan };
  // Of the chart a guest sees what the plan shows of it.
  setBooks(new BooksState(books));

  const asked = createQuery(() => ({
    queryKey: ['shared', path],
    queryFn: ({ signal }) =>
      answer(api.GET('/api/books/{books}/plans/{plan}', { params: { path }, signal })),
  }));
  const crossings = pagesOf(
    () => ['shared', path, 'crosswalk'],
    (at, signal) => {
      const params = { path, query: { page: at } };
      return answer(api.GET('/api/books/{books}/plans/{plan}/crosswalk', { params, signal }));
    },
  );
  const trial = pagesOf(
    () => ['shared', path, 'trial'],
    (at, signal) => {
      const params = { path, query: { page: at } };
      return answer(api.GET('/api/books/{books}/plans/{plan}/trial-balances', { params, signal }));
    },
  );
  const shown = $derived(asked.data);
  const problem = $derived(asked.error ?? crossings.error ?? trial.error);
</script>

<Front title={shown?.name ?? 'Plan'}>
  <main class="paper grow overflow-auto px-11 py-6">
    {#if problem}<p class="text-error" role="alert">{sentence(problem)}</p>{/if}
    {#if shown}
      {@const report = shown.report}
      <h1 class="text-2xl">{shown.name}</h1>
      <p class="text-soft mt-1 mb-4">
        {count(report.accounts_today)} rows of the chart would become {count(
          report.accounts_after,
        )}. {count(report.accounted)} of {count(report.lines)} lines are accounted for; the difference
        is
        <b class={isZero(report.difference) ? 'text-success' : 'text-error'}
          >{signed(report.difference)}</b
        >. You are a guest and see this plan only.
      </p>
      <div class="max-w-5xl">
        {#each report.findings as finding (finding.key)}
          <div class="border-rule border-b py-3"><FindingText {finding} /></div>
        {/each}
        {#if crossings.data}
          <Crosswalk
            crosswalk={crossings.data.flatMap(({ rows }) => rows)}
            counts={shown.counts}
            linked={false}
          />
        {/if}
        {#if trial.data}
          <h2 class="mt-8 mb-2 text-lg">Trial balance, today and after</h2>
          <TrialBalance {report} lines={trial.data.flatMap(({ lines }) => lines)} />
        {/if}
      </div>
    {:else if !problem}<p class="text-soft">Reading the plan…</p>{/if}
  </main>
</Front>
