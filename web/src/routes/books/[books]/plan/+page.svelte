<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { untrack } from 'svelte';
  import { answer, api } from '$lib/api/client';
  import { pagesOf } from '$lib/api/queries';
  import { getBooks } from '$lib/books.svelte';
  import { count, isZero, signed } from '$lib/figures';
  import Crosswalk from '$lib/plan/Crosswalk.svelte';
  import Findings from '$lib/plan/Findings.svelte';
  import StatusBar from '$lib/plan/StatusBar.svelte';
  import Moved from '$lib/plan/Moved.svelte';
  import NoPlan from '$lib/plan/NoPlan.svelte';
  import ReportLines from '$lib/plan/ReportLines.svelte';
  import { unstageAll } from '$lib/staging/edits';
  import Tabs from '$lib/ui/Tabs.svelte';
  import TrialBalance from '$lib/plan/TrialBalance.svelte';
  import { getSheet } from '$lib/sheet/sheet.svelte';
  import { Attempt } from '$lib/api/attempt.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const books = getBooks();
  const sheet = getSheet();
  const report = $derived(books.plan?.report);

  // The address of a plan opens it.
  const wanted = $derived(Number(page.url.searchParams.get('plan')));
  $effect(() => {
    if (wanted && books.drafts.some((draft) => draft.id === wanted)) {
      untrack(() => books.plan?.id !== wanted && void books.open(wanted));
    }
  });
  const TABS = [
    { key: 'changes', title: 'Every change' },
    { key: 'trial', title: 'Trial balance, today and after' },
  ] as const;
  let view = $state<(typeof TABS)[number]['key']>('changes');

  const trial = pagesOf(
    () => ['trial', books.id, books.plan?.id, books.plan?.revision],
    (at, signal) => {
      const params = { path: { books: books.id, plan: books.plan?.id ?? 0 }, query: { page: at } };
      return answer(api.GET('/api/books/{books}/plans/{plan}/trial-balances', { params, signal }));
    },
    () => view === 'trial' && books.plan !== null,
  );

  async function show(account: number) {
    sheet.reveal(account);
    await goto(`/books/${books.id}/chart`);
  }

  const attempt = new Attempt();

  async function unstage(account: number) {
    await attempt.run(() => books.edit(unstageAll(account, books.staged.get(account))));
  }
</script>

<main class="paper flex min-h-0 grow overflow-hidden rounded-b-none!">
  <section class="min-w-0 grow overflow-auto px-11 py-6">
    {#if report && books.plan}
      <h1 class="text-3xl">{books.plan.name}</h1>
      <p class="text-soft mt-1">
        {count(report.accounts_today)} rows of the chart become {count(report.accounts_after)}.
        Nothing is changed until the plan is applied.
      </p>
      <div class="mt-5">
        <Tabs tabs={TABS} bind:view>
          {#if view === 'trial'}
            <div class="mt-4">
              {#if trial.error}<Problem asked={trial.error} />
              {:else if trial.data}
                <TrialBalance {report} lines={trial.data.flatMap(({ lines }) => lines)} />
              {:else}<p class="text-soft">The accounts are added up…</p>{/if}
            </div>
          {:else if books.changes}
            <Moved moved={report.moved} {unstage} books={books.id} />
            <ReportLines lines={report.report_lines} />
            <Crosswalk
              crosswalk={books.plan.crosswalk}
              counts={books.plan?.counts ?? []}
              {unstage}
            />
            {#if books.plan}
              <p class="hint mt-4">
                Save the crosswalk as
                {#each ['xlsx', 'ods', 'csv'] as format (format)}
                  <a
                    class="link mr-2"
                    href="/api/books/{books.id}/exports/crosswalk.{format}?plan={books.plan.id}"
                    download>{format.toUpperCase()}</a
                  >
                {/each}
              </p>
            {/if}
          {:else}
            <p class="text-soft mt-6">
              Nothing is staged yet. <a class="link" href="/books/{books.id}/chart"
                >Go to the chart</a
              > and type on its After side.
            </p>
          {/if}
        </Tabs>
      </div>
    {:else}
      <NoPlan />
    {/if}
  </section>
  {#if report}
    <aside class="bg-base-200 border-rule-strong w-80 shrink-0 overflow-auto border-l p-5">
      <h2 class="text-lg">Stands in the way</h2>
      {#if books.stops.length === 0}
        <p class="text-soft py-2">
          Nothing. {isZero(report.difference)
            ? 'The difference is 0.00.'
            : `But ${signed(report.difference)} is missing.`}
        </p>
      {/if}
      <Findings findings={books.stops} {show} />
      <h2 class="mt-5 text-lg">To be read first</h2>
      {#if books.cautions.length === 0}<p class="text-soft py-2">Nothing.</p>{/if}
      <Findings findings={books.cautions} {show} />
    </aside>
  {/if}
</main>
<StatusBar message={attempt.problem} />
