<!-- A file as it is: the meaning of each column on top of it, and what cannot be taken below. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count, plural } from '../figures';

  let { looked }: { looked: Schemas['ImportView'] } = $props();
  const byPlace = $derived(new Map(looked.columns.map((column) => [column.at, column])));
  const width = $derived(Math.max(...looked.sample.map((row) => row.cells.length), 0));
  const places = $derived(Array.from({ length: width }, (_, at) => at));
  const MONEY = ['Debit', 'Credit', 'Amount', 'Foreign amount'];
</script>

<section class="min-w-0 grow overflow-auto p-5">
  <h1 class="text-xl">{looked.file_name}</h1>
  <p class="text-soft mt-1 mb-4">
    {looked.sheet ? `Sheet “${looked.sheet}”, headings` : 'Headings'} in row {looked.header_row}.
    The first {plural(looked.sample.length, 'row')} as they stand:
  </p>
  <div class="border-rule overflow-x-auto border">
    <table class="file">
      <thead>
        <tr>
          <th></th>
          {#each places as at (at)}
            {@const column = byPlace.get(at)}
            <th class={column ? 'text-primary' : 'text-soft'}>
              {column?.meaning ?? 'not used'}
              <span class="hint block font-normal">{column ? `“${column.heading}”` : ''}</span>
            </th>
          {/each}
        </tr>
      </thead>
      <tbody>
        {#each looked.sample as row (row.row)}
          <tr>
            <td class="hint num">{row.row}</td>
            {#each places as at (at)}
              {@const meaning = byPlace.get(at)?.meaning ?? ''}
              <td class={[!meaning && 'text-soft', MONEY.includes(meaning) && 'num']}
                >{row.cells[at] ?? ''}</td
              >
            {/each}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
  {#if looked.rejected_rows}
    <h2 class="mt-6 mb-1 text-lg">
      {plural(looked.rejected_rows, 'row')} that cannot be taken
    </h2>
    <table class="ledger">
      <thead><tr><th class="num">Row</th><th>Column</th><th>Says</th><th>Why not</th></tr></thead>
      <tbody>
        {#each looked.rejected as row, n (n)}
          <tr class="bg-brick-wash">
            <td class="num">{row.row}</td>
            <td>{row.column ?? ''}</td>
            <td class="max-w-52 truncate">{row.value}</td>
            <td class="text-error">{row.message}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if looked.rejected_rows > looked.rejected.length}
      <p class="hint mt-2">and {count(looked.rejected_rows - looked.rejected.length)} more</p>
    {/if}
  {/if}
</section>
<aside class="bg-base-200 border-rule-strong w-72 shrink-0 overflow-auto border-l p-5">
  <h2 class="mb-2 text-base">How it is read</h2>
  <dl>
    {#each looked.columns as column (column.at)}
      <div class="border-rule flex justify-between gap-3 border-b py-1.5">
        <dt class="text-soft truncate">{column.heading}</dt>
        <dd class="font-medium">{column.meaning}</dd>
      </div>
    {/each}
    {#each looked.unused as heading (heading)}
      <div class="border-rule flex justify-between gap-3 border-b py-1.5">
        <dt class="text-soft truncate">{heading}</dt>
        <dd class="text-soft">not used</dd>
      </div>
    {/each}
  </dl>
  {#if looked.notes.length}
    <h2 class="mt-5 mb-2 text-base">Worth knowing</h2>
    {#each looked.notes as note (note)}<p class="bg-ochre-wash mb-2 rounded px-3 py-2">
        {note}
      </p>{/each}
  {/if}
  {#if looked.warnings.length}
    <h2 class="mt-5 mb-2 text-base">Rows worth a look</h2>
    <ul>
      {#each looked.warnings as warning, n (n)}
        <li class="border-rule border-b py-1.5">
          <span class="text-soft">Row {warning.row}:</span>
          {warning.message}
        </li>
      {/each}
    </ul>
  {/if}
</aside>

<style>
  .file {
    border-collapse: collapse;
    white-space: nowrap;
  }
  .file th,
  .file td {
    border: 1px solid var(--rule);
    padding: 4px 9px;
    text-align: left;
    font-weight: 400;
    max-width: 220px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .file th {
    background: var(--color-base-200);
    font-weight: 600;
    vertical-align: top;
  }
  .file td.num {
    text-align: right;
  }
</style>
