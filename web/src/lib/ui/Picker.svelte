<!-- Chooses an account by code, name or any code it used to bear. -->
<script lang="ts">
  import { Combobox } from 'bits-ui';
  import type { Row } from '../books.svelte';
  import { matches, matchesName, wordsOf } from './matches';

  let {
    rows,
    label,
    choose,
    empty = 'No account has this code or name, now or before.',
    unfit = () => '',
  }: {
    rows: Row[];
    label: string;
    choose: (row: Row) => void;
    empty?: string;
    /** Why a row cannot be chosen; empty where it can. */
    unfit?: (row: Row) => string;
  } = $props();

  let text = $state('');
  const SHOWN = 8;

  const found = $derived.by(() => {
    const words = wordsOf(text);
    const fitting = rows.filter((row) => matches(row, words));
    const first = words[0] ?? '';
    const byCode = (row: Row) => (row.code === first ? 0 : row.code.startsWith(first) ? 1 : 2);
    const rank = (row: Row) => byCode(row) + (unfit(row) ? 3 : 0);
    return fitting.sort((a, b) => rank(a) - rank(b)).slice(0, SHOWN);
  });

  /** What of its past the row was found by. */
  const formerly = (row: Row) => [
    ...row.former.filter((code) => text && code.startsWith(text.trim())),
    ...row.former_names.filter((name) => text && matchesName(name, wordsOf(text))),
  ];

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
    placeholder="Code or name, of now or before"
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
        disabled={unfit(row) !== ''}
        class="data-highlighted:bg-plum-wash flex cursor-pointer gap-3 rounded px-2 py-1.5 data-disabled:cursor-default"
      >
        <span class="text-soft min-w-14 shrink-0 font-medium">{row.code}</span>
        <span class="grow truncate"
          >{row.name}{#if row.description}<span class="hint ml-2">{row.description}</span
            >{/if}</span
        >
        {#if formerly(row).length}
          <span class="hint shrink-0">formerly {formerly(row).join(', ')}</span>
        {/if}
        {#if unfit(row)}
          <span class="text-warning shrink-0 text-xs">{unfit(row)}</span>
        {:else}<span class="hint shrink-0">{row.class}</span>{/if}
      </Combobox.Item>
    {:else}
      <p class="text-soft px-2 py-3">{empty}</p>
    {/each}
  </Combobox.ContentStatic>
</Combobox.Root>
