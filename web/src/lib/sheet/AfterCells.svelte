<!-- Right of the crease: what the plan makes of a row; edited in place. -->
<script lang="ts">
  import CellEditor from './CellEditor.svelte';
  import { after, type SheetRow } from './rows';
  import { COLUMNS, getSheet } from './sheet.svelte';

  let { row, at }: { row: SheetRow; at: number } = $props();
  const sheet = getSheet();
  const side = $derived(after(row, sheet.books));
  const here = $derived(sheet.cursor.row === at);
  const cells = $derived([
    { text: side.code, isNew: side.codeIsNew },
    { text: side.name, isNew: side.nameIsNew },
    { text: side.what, isNew: false },
  ]);
</script>

<span></span>
{#each COLUMNS as column, n (column)}
  {@const refused = sheet.refusal(row, column)}
  {@const chosen = here && sheet.cursor.column === n}
  <div
    id="cell-{row.id}-{column}"
    role="gridcell"
    tabindex="-1"
    data-column={column}
    class={[
      'cell',
      side.state,
      column,
      cells[n]?.isNew && 'new',
      chosen && 'chosen',
      refused && 'refused',
    ]}
    aria-selected={chosen}
    title={refused?.reason}
    onmousedown={(event) => sheet.go(at, n, event.shiftKey)}
    ondblclick={() => sheet.begin()}
  >
    {#if chosen && sheet.editing !== null}
      <CellEditor />
    {:else if refused}
      <span class="line-through">{refused.value || '(empty)'}</span>
      <span class="sr-only">{refused.reason}</span>
    {:else if cells[n]?.text || column === 'fate'}
      {cells[n]?.text}
    {:else}
      <span class="as-today">{row[column]}</span>
    {/if}
  </div>
{/each}

<style>
  .cell {
    height: 26px;
    line-height: 26px;
    padding: 0 6px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: var(--color-soft);
    border-radius: 3px;
    cursor: cell;
  }
  .cell.staged.new {
    color: var(--color-warning);
    font-weight: 650;
  }
  .cell.stopped.new,
  .cell.stopped.fate {
    color: var(--color-error);
    font-weight: 650;
  }
  .cell.fate {
    font-size: 12.5px;
    text-align: right;
    padding-right: 18px;
  }
  .cell.chosen {
    box-shadow: inset 0 0 0 2px var(--color-primary);
    background: var(--color-base-100);
    overflow: visible;
  }
  /* Today stands beside it, unless the window is too narrow for both. */
  .as-today {
    display: none;
  }
  @media (max-width: 700px) {
    .as-today {
      display: inline;
    }
  }
  .cell.refused {
    color: var(--color-error);
    box-shadow: inset 0 0 0 1px var(--color-error);
  }
</style>
