<!-- One part of a history, said as a sentence with blanks. -->
<script lang="ts">
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import X from '@lucide/svelte/icons/x';
  import { plural } from '../figures';
  import Money from '../ui/Money.svelte';
  import type { Part } from './moving.svelte';
  import { getMoving } from './moving.svelte';

  let { part, at, target }: { part: Part; at: number; target: () => void } = $props();
  const moving = getMoving();
  const tally = $derived(moving.told?.parts[at]);
  const here = $derived(moving.at === at);
  const only = $derived(moving.parts.length === 1);
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
      <input
        type="date"
        class={['blank w-30', !part.from && 'text-soft font-normal']}
        aria-label="From"
        bind:value={part.from}
        oninput={() => moving.changed()}
      />
      until
      <input
        type="date"
        class={['blank w-30', !part.until && 'text-soft font-normal']}
        aria-label="Until"
        bind:value={part.until}
        oninput={() => moving.changed()}
      />
      with the payee
      <input
        class="blank w-36"
        list="payees"
        placeholder="anybody"
        aria-label="Payee contains"
        bind:value={part.payee}
        oninput={() => moving.changed()}
      />
      and the memo
      <input
        class="blank w-32"
        placeholder="anything"
        aria-label="Memo contains"
        bind:value={part.memo}
        oninput={() => moving.changed()}
      />
      {#if moving.told?.dimensions.length}
        of
        <select
          class="blank w-36"
          aria-label="Dimension"
          bind:value={part.dimension}
          onchange={() => moving.changed()}
        >
          <option value={undefined}>any dimension</option>
          {#each moving.told.dimensions as value (value)}
            <option {value}>{value.replace('=', ' ')}</option>
          {/each}
        </select>
      {/if}
      {#if part.entries.length}
        in <b class="font-semibold"
          >{plural(part.entries.length, 'chosen entry', 'chosen entries')}</b
        >
        <button
          class="link text-xs"
          onclick={() => {
            part.entries = [];
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
