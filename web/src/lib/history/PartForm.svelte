<!-- One part of a history, said as a sentence with blanks. -->
<script lang="ts">
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import X from '@lucide/svelte/icons/x';
  import { plural } from '../figures';
  import DayField from '../ui/DayField.svelte';
  import Money from '../ui/Money.svelte';
  import type { Part } from './moving.svelte';
  import { getMoving } from './moving.svelte';

  let { part, at, target }: { part: Part; at: number; target: () => void } = $props();
  const moving = getMoving();
  const tally = $derived(moving.preview?.parts[at]);
  const here = $derived(moving.at === at);
  const only = $derived(moving.parts.length === 1);
  const dimensions = $derived(moving.preview?.dimensions ?? []);
  const chosen = $derived.by(() => {
    const wanted = part.which.dimension;
    const at = dimensions.findIndex((d) => d.name === wanted?.name && d.value === wanted.value);
    return at < 0 ? '' : String(at);
  });

  function choose(at: string) {
    part.which.dimension = at === '' ? null : dimensions[Number(at)];
    moving.changed();
  }
</script>

<li
  class={['part relative', here && 'here']}
  aria-current={here}
  onfocusin={() => (moving.at = at)}
>
  <fieldset>
    <legend class="sr-only">Part {at + 1}</legend>
    <p class="leading-9">
      {#if !only}<b class="text-soft mr-1 font-serif" aria-hidden="true">{at + 1}</b>{/if}
      Lines from
      <DayField
        optional
        class={`blank w-30 ${part.which.from ? '' : 'text-soft font-normal'}`}
        label="From"
        value={part.which.from ?? ''}
        choose={(day) => ((part.which.from = day), moving.changed())}
      />
      until
      <DayField
        optional
        class={`blank w-30 ${part.which.until ? '' : 'text-soft font-normal'}`}
        label="Until"
        value={part.which.until ?? ''}
        choose={(day) => ((part.which.until = day), moving.changed())}
      />
      with the payee
      <input
        class="blank w-36"
        list="payees"
        placeholder="anybody"
        aria-label="Payee contains"
        bind:value={part.which.payee}
        oninput={() => moving.changed()}
      />
      and the memo
      <input
        class="blank w-32"
        placeholder="anything"
        aria-label="Memo contains"
        bind:value={part.which.memo}
        oninput={() => moving.changed()}
      />
      {#if dimensions.length}
        of
        <select
          class="blank w-36"
          aria-label="Dimension"
          value={chosen}
          onchange={(event) => choose(event.currentTarget.value)}
        >
          <option value="">any dimension</option>
          {#each dimensions as value, n (n)}
            <option value={n}>{value.name} {value.value}</option>
          {/each}
        </select>
      {/if}
      {#if part.which.entries.length}
        in <b class="font-semibold"
          >{plural(part.which.entries.length, 'chosen entry', 'chosen entries')}</b
        >
        <button
          class="link text-xs"
          onclick={() => {
            part.which.entries = [];
            moving.changed();
          }}>any</button
        >
      {/if}
      go to
      <button
        class={['blank font-semibold', part.to ? 'text-warning' : 'text-primary']}
        aria-label="Part {at + 1} goes to {part.to ? moving.books.label(part.to) : '…'}"
        onclick={target}>{part.to ? moving.books.label(part.to) : 'choose an account…'}</button
      >.
    </p>
    <p class="hint mt-1 flex items-center gap-3">
      {#if tally}
        <span class={tally.lines ? '' : 'text-warning'}>{plural(tally.lines, 'line')}</span>
        <span><Money amount={tally.net} /></span>
        {#if tally.cleared}<span class="text-warning">{tally.cleared} reconciled</span>{/if}
      {/if}
      <span class="ml-auto flex gap-1">
        {#if at > 0}
          <button
            class="btn btn-xs btn-ghost"
            aria-label="Part {at + 1} before the one above"
            onclick={() => moving.raise(at)}><ArrowUp size={13} /></button
          >
        {/if}
        {#if !only}
          <button
            class="btn btn-xs btn-ghost"
            aria-label="Remove part {at + 1}"
            onclick={() => moving.remove(at)}><X size={13} /></button
          >
        {/if}
      </span>
    </p>
  </fieldset>
</li>

<style>
  .part {
    padding: 8px 12px 6px 14px;
    border-left: 3px solid transparent;
    border-bottom: 1px solid var(--rule);
  }
  .part.here {
    border-left-color: var(--color-primary);
    background: var(--color-base-100);
  }
</style>
