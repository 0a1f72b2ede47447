<!-- Chooses an account by code, name or any code it used to bear. -->
<script lang="ts">
  import { Combobox } from 'bits-ui';
  import type { Row } from '../books.svelte';
  import { matches } from './matches';

  let {
    rows,
    label,
    choose,
    empty = 'No account has this code or name, now or before.',
  }: { rows: Row[]; label: string; choose: (row: Row) => void; empty?: string } = $props();

  let text = $state('');
  const SHOWN = 8;

  const found = $derived.by(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    const fitting = rows.filter((row) => matches(row, words));
    const first = words[0] ?? '';
    const rank = (row: Row) => (row.code === first ? 0 : row.code.startsWith(first) ? 1 : 2);
    return fitting.sort((a, b) => rank(a) - rank(b)).slice(0, SHOWN);
  });

  const formerly = (row: Row) => row.former.filter((code) => text && code.startsWith(text.trim()));

  function chosen(id: string) {
    const row = found.find((row) => String(row.id) === id);
    if (row) choose(row);
  }

  function focus(input: HTMLElement) {
    input.focus();
  }
</script>

<Combobox.Root type="single" open onValueChange={chosen}>
  <Combobox.Input
    class="input w-full"
    aria-label={label}
    placeholder="Code, name or former code"
    oninput={(event) => (text = event.currentTarget.value)}
    {@attach focus}
  />
  <Combobox.ContentStatic
    aria-label={label}
    class="mt-2 min-h-56"
    escapeKeydownBehavior="ignore"
    interactOutsideBehavior="ignore"
  >
    {#each found as row (row.id)}
      <Combobox.Item
        value={String(row.id)}
        label="{row.code} {row.name}"
        class="data-highlighted:bg-plum-wash flex cursor-pointer gap-3 rounded px-2 py-1.5"
      >
        <span class="text-soft w-14 shrink-0 font-medium">{row.code}</span>
        <span class="grow truncate"
          >{row.name}{#if row.description}<span class="hint ml-2">{row.description}</span
            >{/if}</span
        >
        {#if formerly(row).length}
          <span class="hint shrink-0">formerly {formerly(row).join(', ')}</span>
        {/if}
        <span class="hint shrink-0">{row.class}</span>
      </Combobox.Item>
    {:else}
      <p class="text-soft px-2 py-3">{empty}</p>
    {/each}
  </Combobox.ContentStatic>
</Combobox.Root>
