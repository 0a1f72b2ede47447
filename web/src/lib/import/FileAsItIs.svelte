<!-- A file as it is: on top of each column what it means, below the rows that cannot be taken. -->
<script lang="ts">
  import OtherKinds from './OtherKinds.svelte';
  import type { WaitingFile } from './waiting.svelte';
  import { count, plural } from '../figures';
  import BesideJournal from './BesideJournal.svelte';
  import Comparison from './Comparison.svelte';
  import Crossings from './Crossings.svelte';
  import Overlap from './Overlap.svelte';
  import type { Taking } from './taking.svelte';
  import EditableCell from './EditableCell.svelte';
  import { placeWords } from './place';
  import Proposals from './Proposals.svelte';
  import RejectedRows from './RejectedRows.svelte';

  let { file, taking }: { file: WaitingFile; taking: Taking } = $props();
  const looked = $derived(file.looked!);
  // Beside a comparison the rows themselves only show that the columns are read well.
  const sample = $derived(looked.comparison ? looked.sample.slice(0, 4) : looked.sample);
  // Balances are typed over right here, with their totals running along.
  const typedOver = $derived(looked.kind === 'balances');
  // Rows of a chart are of several kinds.
  const sorted = $derived(looked.sample.some((row) => row.read_as));
  const byPlace = $derived(new Map(looked.columns.map((column) => [column.at, column])));
  const cells = $derived([...looked.sample, ...looked.rejected].map((row) => row.cells.length));
  const width = $derived(Math.max(...cells, ...looked.columns.map((c) => c.at + 1), 0));
  const places = $derived(Array.from({ length: width }, (_, at) => at));
  const MONEY = ['debit', 'credit', 'amount', 'foreign', 'balance'];
  const money = (at: number) => MONEY.includes(byPlace.get(at)?.field ?? '');

  const headings = $derived.by(() => {
    if (looked.header_row === 0) return 'No headings';
    if (looked.together) return `Sheet “${looked.sheet}” and others of its columns, headings`;
    return looked.sheet ? `Sheet “${looked.sheet}”, headings` : 'Headings';
  });
  const where = $derived(looked.header_row === 0 ? '' : ` in row ${looked.header_row}`);

  function mean(heading: string, key: string) {
    void file.choose((now) => ({ columns: { ...now.columns, [heading]: key } }));
  }
</script>

<section class="min-w-0 grow overflow-auto p-5">
  <h1 class="text-xl">{looked.file_name}</h1>
  {#if looked.balances}<BesideJournal {file} />{/if}
  <p class="text-soft mt-1 mb-4">
    {headings}{where}.
    {#if typedOver}
      Enter or a double click types over a cell; the totals run along.
    {:else}
      The first {plural(sample.length, 'row')} as they stand:
    {/if}
  </p>
  {#if looked.missing.length}
    <p class="bg-brick-wash text-error mb-4 rounded px-3 py-2" role="alert">
      Nothing can be read yet: say which column holds {looked.missing.join(', ')}, or in which row
      the headings stand.
    </p>
  {/if}
  <OtherKinds {file} />
  <div class="border-rule overflow-x-auto border">
    <table class="file">
      <thead>
        <tr>
          <th class="hint">Row</th>
          {#each places as at (at)}
            {@const column = byPlace.get(at)}
            <th>
              {#if column}
                <select
                  class={['meaning', column.field ? 'text-primary' : 'text-soft']}
                  aria-label="What “{column.heading}” means"
                  value={column.field ?? ''}
                  disabled={file.busy !== ''}
                  onchange={(event) => mean(column.heading, event.currentTarget.value)}
                >
                  <option value="">not used</option>
                  {#each looked.fields as field (field.key)}
                    <option value={field.key}>{field.words}</option>
                  {/each}
                </select>
                <span class="hint block font-normal">“{column.heading}”</span>
              {/if}
            </th>
          {/each}
          {#if sorted}<th class="hint">read as</th>{/if}
        </tr>
      </thead>
      <tbody>
        {#each sample as row (row.row)}
          <tr>
            <td class="hint num">{placeWords(row.place)}</td>
            {#each places as at (at)}
              <td
                class={[
                  !byPlace.get(at)?.field && 'text-soft',
                  money(at) && 'num',
                  file.corrected.has(`${row.row} ${at}`) && 'corrected',
                  typedOver && 'open',
                ]}
              >
                {#if typedOver}
                  <EditableCell {file} row={row.row} {at} text={row.cells[at] ?? ''} />
                {:else}{row.cells[at] ?? ''}{/if}
              </td>
            {/each}
            {#if sorted}
              <td class={['hint', row.read_as && row.read_as !== 'account' && 'text-primary']}
                >{row.read_as ?? 'left out'}</td
              >
            {/if}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
  {#if looked.rejected_rows}
    <div class="mt-6 mb-2 flex items-baseline gap-4">
      <h2 class="text-lg">{plural(looked.rejected_rows, 'row')} that cannot be taken</h2>
      <span class="hint grow">Enter or a double click corrects a cell here.</span>
      <a
        class="btn btn-quiet btn-sm"
        href="/api/books/{file.books}/imports/{looked.id}/rejected.xlsx"
        download>Save {looked.rejected_rows === 1 ? 'it' : 'them'} with the reasons</a
      >
    </div>
    <RejectedRows {file} {places} {money} />
    {#if looked.rejected_rows > looked.rejected.length}
      <p class="hint mt-2">and {count(looked.rejected_rows - looked.rejected.length)} more</p>
    {/if}
  {/if}
  {#if looked.journal?.overlap}<Overlap overlap={looked.journal.overlap} />{/if}
  {#if looked.crossings.length}<Crossings crossings={looked.crossings} />{/if}
  {#if looked.accounts}<Proposals {file} accounts={looked.accounts} />{/if}
  {#if looked.comparison}<Comparison comparison={looked.comparison} {taking} />{/if}
</section>

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
    vertical-align: top;
  }
  .file td.num {
    text-align: right;
  }
  .file td.open {
    padding: 0;
  }
  .file td.corrected {
    background: var(--ochre-wash);
  }
  .meaning {
    font-weight: 600;
    background: transparent;
    margin-left: -4px;
    max-width: 170px;
    cursor: pointer;
    border-bottom: 1px dotted var(--rule-strong);
  }
</style>
