<!-- The captions of both sides: how much there is, the filters, and the plan. -->
<script lang="ts">
  import { count, longDate, plural } from '../figures';
  import KeyOf from '../commands/KeyOf.svelte';
  import Panel from '../ui/Panel.svelte';
  import { BY_HAND } from './rows';
  import { getSheetCommands } from './commands.svelte';
  import { getSheet } from './sheet.svelte';

  const sheet = getSheet();
  const commands = getSheetCommands();
  const books = sheet.books;
  const chart = $derived(books.chart);
  const accounts = $derived(chart?.rows.filter((row) => row.kind === 'account').length ?? 0);
  const retired = $derived(chart?.rows.filter((row) => row.status !== 'active').length ?? 0);
  const proposed = $derived(chart?.rows.filter((row) => row.code_proposed).length ?? 0);
  const origins = $derived.by(() => {
    const files = chart?.origins.map((o) => ({ key: String(o.id), words: `from ${o.file_name}` }));
    const byHand = chart?.rows.some((row) => row.origin == null) ?? false;
    return [...(files ?? []), ...(byHand ? [{ key: BY_HAND, words: 'added by hand' }] : [])];
  });
  const years = $derived.by(() => {
    const ends = new Map<number, string>();
    for (const { period, last } of chart?.periods ?? []) {
      ends.set(Math.floor(period / 12) * 12, last);
    }
    return [...ends].reverse();
  });

  function between(from: number, to: number) {
    void books.between(from, to);
  }
</script>

<div class="caps">
  <div class="cap today">
    <h2 class="text-lg">Today</h2>
    <button class="btn btn-sm btn-quiet other-side" onclick={() => (sheet.side = 'after')}
      >Show After</button
    >
    <em class="text-soft font-serif text-sm max-md:sr-only">
      {#if sheet.rows.length < sheet.all.length}
        {count(sheet.rows.length)} of {plural(sheet.all.length, 'row')}
      {:else}
        {plural(accounts, 'account')}, {plural(chart?.lines ?? 0, 'line')}
      {/if}
    </em>
    {#if sheet.beyond && sheet.rows.length > 0}
      <button class="link text-xs whitespace-nowrap" onclick={() => sheet.unfilter()}
        >{count(sheet.beyond)} more {sheet.beyond === 1 ? 'is' : 'are'} left out by the filters</button
      >
    {/if}
    <div class="ml-auto flex items-center gap-2">
      {#if sheet.picked}
        <button class="btn btn-sm btn-quiet" onclick={() => (sheet.picked = null)}
          >Only {sheet.picked.size} picked ✕</button
        >
      {/if}
      <select
        class="select select-sm w-28 max-md:w-24 max-md:px-2"
        aria-label="Class"
        bind:value={sheet.class}
      >
        <option value="">Every class</option>
        {#each books.classes as { class: name } (name)}<option value={name}>{name}</option>{/each}
      </select>
      {#if retired}
        <label
          class="flex cursor-pointer items-center gap-1.5 text-xs whitespace-nowrap max-lg:hidden"
        >
          <input type="checkbox" class="checkbox checkbox-xs" bind:checked={sheet.showRetired} />
          {count(retired)} retired
        </label>
      {/if}
      {#if proposed || sheet.proposedOnly}
        <label
          class="flex cursor-pointer items-center gap-1.5 text-xs whitespace-nowrap max-lg:hidden"
          title="Codes that were proposed where a file had none"
        >
          <input type="checkbox" class="checkbox checkbox-xs" bind:checked={sheet.proposedOnly} />
          {plural(proposed, 'proposed code')}
        </label>
      {/if}
      {#if origins.length > 1}
        <select
          class="select select-sm w-32 max-md:hidden"
          aria-label="Where accounts came from"
          bind:value={sheet.origin}
        >
          <option value="">From anywhere</option>
          {#each origins as { key, words } (key)}<option value={key}>{words}</option>{/each}
        </select>
      {/if}
      <Panel title="Net change…">
        {#snippet children(close)}
          <p class="hint mb-2">The column Net change adds up what was posted</p>
          <div class="mb-3 grid grid-cols-[3rem_1fr] items-center gap-2">
            <label for="from">from</label>
            <select
              id="from"
              class="select select-sm"
              value={chart?.from}
              onchange={(e) => between(Number(e.currentTarget.value), chart?.to ?? 0)}
            >
              {#each chart?.periods ?? [] as { period, first } (period)}
                <option value={period}>{longDate(first)}</option>
              {/each}
            </select>
            <label for="to">up to</label>
            <select
              id="to"
              class="select select-sm"
              value={chart?.to}
              onchange={(e) => between(chart?.from ?? 0, Number(e.currentTarget.value))}
            >
              {#each chart?.periods ?? [] as { period, last } (period)}
                <option value={period}>{longDate(last)}</option>
              {/each}
            </select>
          </div>
          <div class="flex flex-wrap gap-1.5">
            {#each years as [start, last] (start)}
              <button
                class="btn btn-xs btn-quiet"
                onclick={() => (close(), between(start, start + 11))}
                >year to {longDate(last)}</button
              >
            {/each}
          </div>
        {/snippet}
      </Panel>
    </div>
  </div>
  <div class="cap after">
    <h2 class="text-lg">After</h2>
    <button class="btn btn-sm btn-quiet other-side" onclick={() => (sheet.side = 'today')}
      >Show Today</button
    >
    <em class="text-soft truncate font-serif text-sm max-md:sr-only">
      {books.plan ? `“${books.plan.name}”` : 'no plan yet'}
    </em>
    <div class="ml-auto flex shrink-0 items-center gap-2">
      {#if books.staged.size > 0 || sheet.changesOnly}
        <label class="flex cursor-pointer items-center gap-1.5 text-xs">
          <input type="checkbox" class="checkbox checkbox-xs" bind:checked={sheet.changesOnly} />
          <span class="max-lg:sr-only">Only what changes</span>
        </label>
      {/if}
      <a class="btn btn-sm btn-quiet max-lg:hidden" href="/books/{books.id}/renumber">Renumber…</a>
      <button class="btn btn-sm btn-quiet" title={commands.add.name} onclick={commands.add.run}
        >Add <KeyOf of={commands.add} /></button
      >
    </div>
  </div>
</div>

<style>
  .caps {
    display: grid;
    grid-template-columns: var(--today) minmax(0, 1fr);
    border-bottom: 1px solid var(--rule-strong);
  }
  .cap {
    min-height: 44px;
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 0 16px;
  }
  .other-side {
    display: none;
  }
  @media (max-width: 700px) {
    .other-side {
      display: inline-flex;
    }
  }
  .cap.after {
    background: var(--color-base-200);
    border-radius: 0 10px 0 0;
    padding-left: 26px;
  }
</style>
