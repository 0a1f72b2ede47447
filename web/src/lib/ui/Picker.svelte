<!-- Chooses an account by code, name or any code it used to bear. -->
<script lang="ts">
  import type { Row } from '../books.svelte';
  import { matches } from './matches';

  let {
    rows,
    label,
    choose,
    empty = 'No account has this code or name, now or before.',
  }: { rows: Row[]; label: string; choose: (row: Row) => void; empty?: string } = $props();

  let text = $state('');
  let at = $state(0);
  const SHOWN = 8;

  const found = $derived.by(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    const fitting = rows.filter((row) => matches(row, words));
    const first = words[0] ?? '';
    const rank = (row: Row) => (row.code === first ? 0 : row.code.startsWith(first) ? 1 : 2);
    return fitting.sort((a, b) => rank(a) - rank(b)).slice(0, SHOWN);
  });

  const chosen = $derived(found[at]);
  const formerly = (row: Row) => row.former.filter((code) => text && code.startsWith(text.trim()));

  function key(event: KeyboardEvent) {
    if (event.key === 'ArrowDown') at = Math.min(at + 1, found.length - 1);
    else if (event.key === 'ArrowUp') at = Math.max(at - 1, 0);
    else if (event.key === 'Enter' && chosen) choose(chosen);
    else return;
    event.preventDefault();
  }

  function focus(input: HTMLInputElement) {
    input.focus();
  }
</script>

<input
  class="input w-full"
  aria-label={label}
  placeholder="Code, name or former code"
  role="combobox"
  aria-expanded="true"
  aria-controls="picker-list"
  aria-activedescendant={chosen ? `pick-${chosen.id}` : undefined}
  bind:value={text}
  oninput={() => (at = 0)}
  onkeydown={key}
  {@attach focus}
/>
<ul id="picker-list" role="listbox" aria-label={label} class="mt-2 min-h-56">
  {#each found as row, n (row.id)}
    <li
      id="pick-{row.id}"
      role="option"
      aria-selected={n === at}
      class={['flex cursor-pointer gap-3 rounded px-2 py-1.5', n === at && 'bg-plum-wash']}
      onclick={() => choose(row)}
      onkeydown={key}
    >
      <span class="text-soft w-14 shrink-0 font-medium">{row.code}</span>
      <span class="grow truncate"
        >{row.name}{#if row.description}<span class="hint ml-2">{row.description}</span>{/if}</span
      >
      {#if formerly(row).length}
        <span class="hint shrink-0">formerly {formerly(row).join(', ')}</span>
      {/if}
      <span class="hint shrink-0">{row.class}</span>
    </li>
  {:else}
    <li class="text-soft px-2 py-3">{empty}</li>
  {/each}
</ul>
