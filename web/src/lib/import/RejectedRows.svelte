<!-- Rows that cannot be taken, each above its reason; their cells are corrected in place. -->
<script lang="ts">
  import EditableCell from './EditableCell.svelte';
  import { placeWords } from './place';
  import type { WaitingFile } from './waiting.svelte';

  let {
    file,
    places,
    money,
  }: { file: WaitingFile; places: number[]; money: (at: number) => boolean } = $props();
  const looked = $derived(file.looked!);
  const byPlace = $derived(new Map(looked.columns.map((column) => [column.at, column])));
  const meaning = (at: number) => byPlace.get(at)?.meaning ?? '';
</script>

<div class="border-rule overflow-x-auto border">
  <table>
    <thead>
      <tr>
        <th class="hint">Row</th>
        {#each places as at (at)}<th class="hint">{meaning(at)}</th>{/each}
      </tr>
    </thead>
    <tbody>
      {#each looked.rejected as rejected, n (n)}
        {@const row = rejected.row}
        <tr>
          <td class="hint num">{placeWords(rejected.place)}</td>
          {#each places as at (at)}
            {@const text = rejected.cells[at] ?? ''}
            <td
              class={[
                money(at) && 'num',
                file.corrected.has(`${row} ${at}`) && 'corrected',
                rejected.at === at && 'wrong',
              ]}
            >
              <EditableCell {file} {row} {at} {text} />
            </td>
          {/each}
        </tr>
        <tr class="bg-brick-wash">
          <td></td>
          <td colspan={places.length} class="text-error why"
            >Row {placeWords(rejected.place)}: {rejected.message}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</div>

<style>
  table {
    border-collapse: collapse;
    white-space: nowrap;
    min-width: 100%;
  }
  th,
  td {
    border: 1px solid var(--rule);
    max-width: 220px;
  }
  th {
    background: var(--color-base-200);
    text-align: left;
    font-weight: 400;
  }
  th.hint,
  td.hint,
  td.why {
    padding: 4px 9px;
  }
  td.why {
    white-space: normal;
    max-width: none;
  }
  td.corrected {
    background: var(--ochre-wash);
  }
  td.wrong {
    outline: 2px solid var(--color-error);
    outline-offset: -2px;
    font-weight: 600;
    color: var(--color-error);
  }
</style>
