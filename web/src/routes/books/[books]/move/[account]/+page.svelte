<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { getBooks } from '$lib/books.svelte';
  import { plural } from '$lib/figures';
  import Lines from '$lib/history/Lines.svelte';
  import { MovingState, setMoving } from '$lib/history/moving.svelte';
  import PartForm from '$lib/history/PartForm.svelte';
  import Sides from '$lib/history/Sides.svelte';
  import Target from '$lib/history/Target.svelte';
  import StatusBar from '$lib/plan/StatusBar.svelte';
  import { getSheet } from '$lib/sheet/sheet.svelte';
  import FindingText from '$lib/ui/FindingText.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const books = getBooks();
  const sheet = getSheet();
  const moving = setMoving(new MovingState(books, Number(page.params.account)));
  const row = $derived(books.byId.get(moving.account));
  const findings = $derived(moving.staged ? (books.findings.get(moving.account) ?? []) : []);
  let choosing = $state<number | null>(null);

  function choose(account: number) {
    const part = moving.parts[choosing ?? 0];
    if (part) part.to = account;
    choosing = null;
    moving.changed();
  }

  async function back() {
    sheet.reveal(moving.account);
    await goto(`/books/${books.id}/chart`);
  }
</script>

<main class="paper flex min-h-0 grow overflow-hidden rounded-b-none!">
  <section class="bg-base-200 border-rule-strong flex w-[27rem] shrink-0 flex-col border-r">
    <div class="px-5 pt-5 pb-3">
      <h1 class="text-2xl leading-tight">Move history</h1>
      <p class="text-soft mt-1">
        of <button class="link" onclick={back}>{row?.code} {row?.name}</button>. Lines keep their
        entry, date, amount and text, and the code they were posted under.
      </p>
    </div>
    <ol class="border-rule min-h-0 grow overflow-auto border-t">
      {#each moving.parts as part, at (part)}
        <PartForm {part} {at} target={() => (choosing = at)} />
      {/each}
    </ol>
    {#if moving.preview?.overlaps.length || moving.ranked}
      <div class="border-rule border-t px-5 py-3">
        {#each moving.preview?.overlaps ?? [] as { first, second, lines } (`${first} ${second}`)}
          <p class="text-warning text-xs">
            {plural(lines, 'line')} fit part {first + 1} and part {second + 1}.
          </p>
        {/each}
        <label class="mt-1 flex cursor-pointer items-center gap-2 text-xs">
          <input
            type="checkbox"
            class="checkbox checkbox-xs"
            bind:checked={moving.ranked}
            onchange={() => moving.changed()}
          />
          the first part that fits takes a line
        </label>
      </div>
    {/if}
    <div class="border-rule-strong flex flex-wrap items-center gap-2 border-t px-5 py-3">
      <button
        class="btn btn-primary"
        disabled={!moving.complete || books.saving || moving.settled}
        onclick={() => moving.stage()}>Stage {plural(moving.lines, 'line')}</button
      >
      <button class="btn btn-quiet" onclick={() => moving.add()}>Another part</button>
      {#if moving.staged}
        <button class="btn btn-quiet" onclick={() => moving.unstage()}>Undo the move</button>
        <b class="text-warning text-xs font-semibold">staged in “{books.plan?.name}”</b>
      {/if}
    </div>
  </section>
  <section class="min-w-0 grow overflow-auto px-7 py-5">
    <Problem of={moving.asking} class="mb-3" />
    {#each findings as finding (finding.key)}
      <div class="mb-2"><FindingText {finding} /></div>
    {/each}
    <h2 class="mb-1 text-lg">Both sides, year by year</h2>
    <Sides />
    <h2 class="mt-6 mb-2 text-lg">Lines</h2>
    {#if moving.preview}<Lines />{:else if !moving.asking.problem}<p class="text-soft">
        Reading…
      </p>{/if}
  </section>
</main>
<datalist id="payees">
  {#each moving.preview?.payees ?? [] as payee (payee)}<option value={payee}></option>{/each}
</datalist>
{#if choosing !== null}<Target {choose} close={() => (choosing = null)} />{/if}
<StatusBar />
