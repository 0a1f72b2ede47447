<script lang="ts">
  import { goto } from '$app/navigation';
  import { getBooks } from '$lib/books.svelte';
  import { count, plural } from '$lib/figures';
  import NumberMap from '$lib/numbering/NumberMap.svelte';
  import { NumberingState, setNumbering } from '$lib/numbering/numbering.svelte';
  import Proposals from '$lib/numbering/Proposals.svelte';
  import RuleForm from '$lib/numbering/RuleForm.svelte';
  import Scheme from '$lib/numbering/Scheme.svelte';
  import StatusBar from '$lib/plan/StatusBar.svelte';
  import { getSheet } from '$lib/sheet/sheet.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const books = getBooks();
  const sheet = getSheet();
  const numbering = setNumbering(new NumberingState(books));
  let asked = $state(false);

  // Whoever comes from the sheet means the rows that were chosen there.
  const [first, ...others] = sheet.selected;
  if (first && others.length > 0) choose(sheet.selected.map((row) => row.id));
  else if (first?.kind === 'heading') {
    numbering.scopeKind = 'under';
    numbering.heading = first.id;
    numbering.start = first.code;
  }
  // Whatever the plan becomes meanwhile, the proposals are made on it.
  $effect(() => {
    void books.plan;
    numbering.changed();
  });

  const preview = $derived(numbering.preview);
  const strays = $derived(
    preview?.map.ticks.filter((tick) => tick.outside_today && !tick.outside_after).length ?? 0,
  );
  const chosen = $derived(new Set(numbering.scopeKind === 'accounts' ? numbering.accounts : []));

  function choose(accounts: number[]) {
    if (accounts.length === 0) return;
    numbering.accounts = accounts;
    numbering.scopeKind = 'accounts';
    numbering.changed();
  }

  function into(code: string) {
    numbering.ruleKind = 'spread';
    numbering.start = code;
    numbering.changed();
  }

  async function show(account: number) {
    sheet.reveal(account);
    await goto(`/books/${books.id}/chart`);
  }

  async function showChosen() {
    sheet.pick(numbering.accounts);
    await goto(`/books/${books.id}/chart`);
  }
</script>

<main class="paper min-h-0 grow overflow-auto rounded-b-none! px-7 py-5">
  <div class="mb-3 flex items-baseline gap-4">
    <h1 class="text-2xl">Number map</h1>
    <p class="text-soft grow">
      {#if preview}
        {plural(preview.map.ticks.length, 'row')} on the line of codes.
        {numbering.changing.length ? `${count(numbering.changing.length)} would move.` : ''}
        {strays ? `${plural(strays, 'stray')} would come home.` : ''}
        {preview.map.inferred
          ? 'No scheme is set; these blocks are what the codes follow, and can be set as the scheme.'
          : ''}
      {/if}
    </p>
    {#if chosen.size}
      <button class="btn btn-sm btn-quiet" onclick={showChosen}
        >Show {plural(chosen.size, 'row')} in the chart</button
      >
    {/if}
    <button class="btn btn-sm btn-quiet" onclick={() => (asked = true)}>Numbering scheme…</button>
  </div>
  {#if preview}
    <div class="relative">
      <b class="side top-5">Today</b><b class="side bottom-5">After</b>
      <div class="pl-12">
        <NumberMap map={preview.map} selected={chosen} select={choose} {into} />
      </div>
    </div>
  {:else}
    <div class="text-soft grid h-54 place-items-center">Reading the codes…</div>
  {/if}
  <div class="mt-5 grid grid-cols-[24rem_minmax(0,1fr)] gap-9">
    <section>
      <h2 class="mb-1 text-lg">Renumber</h2>
      <RuleForm />
      <Problem of={numbering.asking} class="mt-2" />
      <Problem of={numbering.staging} class="mt-2" />
      <div class="mt-4 flex items-center gap-2">
        <button
          class="btn btn-primary"
          disabled={numbering.staging.busy ||
            (numbering.copying
              ? !preview?.codes.length || preview.refused.length > 0
              : numbering.changing.length === 0)}
          onclick={() => numbering.stage()}
        >
          {numbering.copying
            ? `Stage ${plural(preview?.codes.length ?? 0, 'new row')}`
            : `Stage ${plural(numbering.changing.length, 'code')}`}
        </button>
        {#if numbering.stops.length}
          <span class="text-error text-xs"
            >{plural(numbering.stops.length, 'stop')} would block it</span
          >
        {/if}
      </div>
    </section>
    <section class="min-w-0"><Proposals {show} /></section>
  </div>
</main>
<StatusBar />
{#if asked}<Scheme close={() => (asked = false)} saved={() => numbering.changed()} />{/if}

<style>
  .side {
    position: absolute;
    left: 0;
    font-size: 12px;
    font-weight: 600;
  }
</style>
