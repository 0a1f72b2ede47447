<!-- A chart from a file beside that of the books: what is taken of it, group by group. -->
<script lang="ts">
  import type { SvelteSet } from 'svelte/reactivity';
  import type { Schemas } from '../api/client';
  import { count, plural } from '../figures';
  import { placeWords } from './place';
  import type { Taking } from './taking.svelte';

  let { comparison, taking }: { comparison: Schemas['ComparisonView']; taking: Taking } = $props();

  function toggle(without: SvelteSet<number>, key: number) {
    if (!without.delete(key)) without.add(key);
  }
</script>

{#snippet tick(without: SvelteSet<number>, key: number, on: boolean, label: string)}
  <td class="w-7">
    <input
      type="checkbox"
      class="checkbox checkbox-xs"
      aria-label="Take {label}"
      disabled={!on}
      checked={on && !without.has(key)}
      onchange={() => toggle(without, key)}
    />
  </td>
{/snippet}

{#snippet more(all: number, shown: number)}
  {#if all > shown}<p class="hint mt-2">and {count(all - shown)} more</p>{/if}
{/snippet}

{#if comparison.changed_rows}
  <div class="mt-6 mb-1 flex items-baseline gap-4">
    <h2 class="grow text-lg">{plural(comparison.changed_rows, 'account')} changed in the file</h2>
    <label class="flex items-center gap-2">
      <input type="checkbox" class="checkbox checkbox-sm" bind:checked={taking.changed} />
      stage the changes
    </label>
  </div>
  <table class="ledger">
    <thead
      ><tr
        ><th></th><th class="num">Row</th><th>Account today</th><th>What</th><th>Today</th><th
          >In the file</th
        ></tr
      ></thead
    >
    <tbody>
      {#each comparison.changed as changed (changed.row)}
        {#each changed.fields as field, n (field.field)}
          <tr>
            {#if n === 0}
              {@render tick(taking.withoutRows, changed.row, taking.changed, `row ${changed.row}`)}
              <td class="num text-soft">{placeWords(changed.place)}</td>
              <td>
                <b class="font-medium">{changed.code}</b>
                {changed.name}
                {#if changed.by !== 'code'}<span class="hint block">found by its {changed.by}</span
                  >{/if}
              </td>
            {:else}<td></td><td></td><td></td>{/if}
            <td class="text-soft">{field.field}</td>
            <td class="text-soft">{field.old}</td>
            <td class="text-warning font-medium">{field.new}</td>
          </tr>
        {/each}
      {/each}
    </tbody>
  </table>
  {@render more(comparison.changed_rows, comparison.changed.length)}
{/if}

{#if comparison.new_rows}
  <div class="mt-6 mb-1 flex items-baseline gap-4">
    <h2 class="grow text-lg">{plural(comparison.new_rows, 'account')} new in the file</h2>
    <label class="flex items-center gap-2">
      <input type="checkbox" class="checkbox checkbox-sm" bind:checked={taking.new} />
      add them
    </label>
  </div>
  <table class="ledger">
    <thead><tr><th></th><th class="num">Row</th><th>Code</th><th>Name</th><th>Class</th></tr></thead
    >
    <tbody>
      {#each comparison.new as row (row.row)}
        <tr>
          {@render tick(taking.withoutRows, row.row, taking.new, `row ${row.row}`)}
          <td class="num text-soft">{placeWords(row.place)}</td>
          <td class="font-medium">{row.code}</td>
          <td>{row.name}</td>
          <td class="text-soft">{row.class}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {@render more(comparison.new_rows, comparison.new.length)}
{/if}

{#if comparison.missing_rows}
  <div class="mt-6 mb-1 flex items-baseline gap-4">
    <h2 class="grow text-lg">{plural(comparison.missing_rows, 'account')} not in the file</h2>
    <label class="flex items-center gap-2">
      <select
        class="select select-sm w-40"
        aria-label="What becomes of accounts that are not in the file"
        bind:value={taking.missing}
      >
        <option value="">leave them</option>
        <option value="deactivate">deactivate them</option>
        <option value="archive">archive them</option>
        <option value="delete">delete them</option>
      </select>
    </label>
  </div>
  <table class="ledger">
    <thead
      ><tr><th></th><th>Code</th><th>Name</th><th>Status</th><th class="num">Lines</th></tr></thead
    >
    <tbody>
      {#each comparison.missing as row (row.account)}
        <tr>
          {@render tick(taking.withoutAccounts, row.account, taking.missing !== '', row.code)}
          <td class="font-medium">{row.code}</td>
          <td>{row.name}</td>
          <td class="text-soft">{row.status}</td>
          <td class="num text-soft">{count(row.lines)}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {@render more(comparison.missing_rows, comparison.missing.length)}
{/if}
