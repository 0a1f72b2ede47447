<script lang="ts">
  import { page } from '$app/state';
  import { createQuery } from '@tanstack/svelte-query';
  import { api, answer, sentence } from '$lib/api/client';
  import { pagesOf } from '$lib/api/queries';
  import { getBooks } from '$lib/books.svelte';
  import { count, instant, isZero, magnitude, plural, signed, timeOfDay } from '$lib/figures';
  import Crosswalk from '$lib/plan/Crosswalk.svelte';
  import Moved from '$lib/plan/Moved.svelte';
  import ReportLines from '$lib/plan/ReportLines.svelte';
  import TrialBalance from '$lib/plan/TrialBalance.svelte';
  import UndoDialog from '$lib/plan/UndoDialog.svelte';
  import FindingText from '$lib/ui/FindingText.svelte';

  const books = getBooks();
  let undoing = $state(false);
  let detailed = $state(false);
  const application = $derived(Number(page.params.application));
  const path = $derived({ books: books.id, application });

  const asked = createQuery(() => ({
    queryKey: ['proof', books.id, application],
    queryFn: ({ signal }) =>
      answer(
        api.GET('/api/books/{books}/applications/{application}', { params: { path }, signal }),
      ),
    // The recount goes on after the proof is first shown.
    refetchInterval: ({ state }) => (state.data?.recounted_at ? false : 1500),
  }));
  const proof = $derived(asked.data);
  const crosswalk = pagesOf(
    () => ['proof crosswalk', books.id, application],
    (page, signal) => {
      const params = { path, query: { page } };
      const to = '/api/books/{books}/applications/{application}/crosswalk' as const;
      return answer(api.GET(to, { params, signal }));
    },
  );
  const trial = pagesOf(
    () => ['proof trial', books.id, application],
    (page, signal) => {
      const params = { path, query: { page } };
      const to = '/api/books/{books}/applications/{application}/trial-balances' as const;
      return answer(api.GET(to, { params, signal }));
    },
    () => detailed,
  );
  const problem = $derived(asked.error ?? crosswalk.error ?? trial.error);

  const report = $derived(proof?.report);
  const sound = $derived(!!report && isZero(report.difference) && !proof?.recount_misses.length);
  const moved = $derived(report?.moved.reduce((sum, part) => sum + part.lines, 0) ?? 0);
</script>

<main class="paper flex min-h-0 grow overflow-hidden">
  <section class="min-w-0 grow overflow-auto px-11 py-7">
    {#if problem}<p class="text-error" role="alert">{sentence(problem)}</p>{/if}
    {#if proof && report}
      <h1 class="text-3xl">Proof of “{proof.name}”</h1>
      <p class="text-soft mt-2 mb-5">
        Applied by {proof.person}, {instant(proof.applied_at)}. {plural(
          report.accounts_today,
          'row',
        )} became
        {count(report.accounts_after)}; {plural(report.crossings + report.moved.length, 'change')}, {plural(
          report.findings.length,
          'caution',
        )} acknowledged.
      </p>
      <div class="stitch band">
        <p>
          <b class={['font-serif text-5xl font-semibold', sound ? 'text-success' : 'text-error']}
            >{signed(report.difference)}</b
          >
          <span class="hint mt-2 block">difference, in all {report.periods} periods</span>
        </p>
        <p>
          <b class="text-base font-semibold">{count(report.lines)} = {count(report.accounted)}</b>
          <span class="hint block">lines before and after</span>
        </p>
        <p>
          <b class="text-base font-semibold">{magnitude(report.debits)}</b>
          <span class="hint block"
            >debits, {report.debits === report.credits ? 'the same' : 'other'} credits</span
          >
        </p>
        <p>
          <b class="text-base font-semibold"
            >{report.digest.slice(-8, -4)} {report.digest.slice(-4)}</b
          >
          <span class="hint block">content of every line</span>
        </p>
        <p>
          <b class={['text-base font-semibold', proof.recount_misses.length && 'text-error']}>
            {proof.recounted_at ? timeOfDay(proof.recounted_at) : 'not yet'}
          </b>
          <span class="hint block">recounted from the lines</span>
        </p>
      </div>
      {#each proof.recount_misses as miss (miss)}<p class="text-error mt-2">{miss}</p>{/each}
      <div class="stitch mb-6"></div>
      <div class="mb-1 flex items-baseline justify-between">
        <h2 class="text-xl">Trial balance</h2>
        <label class="hint flex cursor-pointer gap-1.5">
          <input type="checkbox" class="checkbox checkbox-xs" bind:checked={detailed} /> every account
        </label>
      </div>
      <TrialBalance
        {report}
        lines={detailed ? trial.data?.flatMap(({ lines }) => lines) : null}
        proved={sound}
      />
      <h2 class="mt-7 text-xl">Crosswalk</h2>
      <Moved moved={report.moved} />
      <ReportLines lines={report.report_lines} />
      {#if crosswalk.data}
        <Crosswalk crosswalk={crosswalk.data.flatMap(({ rows }) => rows)} counts={proof.counts} />
      {:else}<p class="text-soft mt-4">The crosswalk is read…</p>{/if}
      {#if report.findings.length}
        <h2 class="mt-7 mb-1 text-xl">Read and acknowledged</h2>
        {#each report.findings as finding (finding.key)}
          <div class="border-rule border-b py-2"><FindingText {finding} /></div>
        {/each}
      {/if}
    {:else if !problem}
      <p class="text-soft">Reading the proof…</p>
    {/if}
  </section>
  {#if proof && report}
    <aside class="bg-base-200 border-rule-strong w-72 shrink-0 overflow-auto border-l p-6">
      <h2 class="mb-1 text-lg">What changed</h2>
      <dl>
        {#each proof.counts as one (one.change)}
          <div class="border-rule flex justify-between border-b py-1.5">
            <dt>{one.words}</dt>
            <dd class="font-semibold">{count(one.accounts)}</dd>
          </div>
        {/each}
        {#if moved}
          <div class="border-rule flex justify-between border-b py-1.5">
            <dt>lines moved</dt>
            <dd class="font-semibold">{count(moved)}</dd>
          </div>
        {/if}
      </dl>
      <h2 class="mt-6 mb-2 text-lg">Hand it over</h2>
      <a
        class="btn btn-quiet w-full justify-between"
        href="/api/books/{books.id}/applications/{proof.id}/proof.xlsx"
        download>This proof <kbd class="kbd kbd-xs">xlsx</kbd></a
      >
      <h2 class="mt-6 mb-2 text-lg">The way back</h2>
      {#if proof.undone_by}
        <p>
          This plan was undone. <a class="link" href="/books/{books.id}/proof/{proof.undone_by}"
            >Proof of the undo</a
          >
        </p>
      {:else if proof.undo_of}
        <p>
          This is an undo of <a class="link" href="/books/{books.id}/proof/{proof.undo_of}"
            >this plan</a
          >.
        </p>
      {:else}
        <p class="text-soft mb-3">
          The plan can be undone; the undo is rehearsed first and proved the same way. Lines posted
          since stay where they were posted.
        </p>
        {#if books.may('apply')}
          <button class="btn btn-quiet w-full" onclick={() => (undoing = true)}
            >Rehearse the undo</button
          >
        {:else}<p class="hint">A reviewer can undo it.</p>{/if}
      {/if}
    </aside>
  {/if}
</main>
{#if undoing && proof}<UndoDialog {proof} close={() => (undoing = false)} />{/if}

<style>
  .band {
    display: flex;
    gap: 36px;
    align-items: center;
    padding: 14px 0;
    flex-wrap: wrap;
  }
</style>
