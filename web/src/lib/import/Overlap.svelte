<!-- What of a journal file the journal has already: nothing of it is stored twice, and nothing that
     differs is changed unseen. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { longDate, plural } from '../figures';
  import Money from '../ui/Money.svelte';
  import { placeWords } from './place';

  type Side = Schemas['EntrySideView'];

  let { overlap }: { overlap: Schemas['JournalOverlapView'] } = $props();

  /** The lines of both sides, those of one account beside each other. */
  function lines({ journal, file }: { journal: Side; file: Side }) {
    const here = file.lines.filter((line) => line.only_here);
    const there = journal.lines.map((line) => {
      const beside = here.findIndex((other) => line.only_here && other.account === line.account);
      const other = beside < 0 ? null : here.splice(beside, 1)[0];
      return {
        ...line,
        journal: line.amount,
        file: line.only_here ? other?.amount : line.amount,
        now: other?.text,
      };
    });
    return [
      ...there,
      ...here.map((line) => ({ ...line, journal: undefined, file: line.amount, now: undefined })),
    ];
  }
</script>

<h2 class="mt-6 mb-1 text-lg">Beside the journal</h2>
<p class="text-soft mb-3">
  {plural(overlap.known_rows, 'row is', 'rows are')} there already, just so; nothing is stored twice.
  {#if overlap.changed_entries === 0 && overlap.vanished_entries === 0}
    Nothing is there otherwise, and nothing of these days is missing from the file.
  {/if}
</p>

{#if overlap.changed_entries}
  <h3 class="text-error mb-1 font-medium">
    {plural(overlap.changed_entries, 'entry is', 'entries are')} there otherwise
  </h3>
  <p class="text-soft mb-2">
    The journal keeps what it has; the rows of the file are left out.
    {#if overlap.changed.length < overlap.changed_entries}
      These are the first {overlap.changed.length}.
    {/if}
  </p>
  <table class="ledger mb-5 max-w-4xl">
    <thead>
      <tr>
        <th>Entry and accounts</th><th></th>
        <th class="num amount">In the journal</th><th class="num amount">In the file</th>
      </tr>
    </thead>
    <tbody>
      {#each overlap.changed as entry, n (n)}
        <tr class="bg-base-200">
          <td class="font-medium">{entry.number}</td>
          <td class="text-soft">row {placeWords(entry.place)}</td>
          <td class="num" class:text-error={entry.journal.date !== entry.file.date}
            >{longDate(entry.journal.date)}</td
          >
          <td class="num" class:text-error={entry.journal.date !== entry.file.date}
            >{longDate(entry.file.date)}</td
          >
        </tr>
        {#each lines(entry) as line, at (at)}
          <tr class:text-soft={!line.only_here}>
            <td class="pl-4">{line.account}</td>
            <td>
              {line.text}
              {#if line.now !== undefined && line.now !== line.text}
                <div class="text-error">{line.now || 'no text'}</div>
              {/if}
            </td>
            <td class="num"
              >{#if line.journal}<Money amount={line.journal} />{/if}</td
            >
            <td class="num"
              >{#if line.file}<Money amount={line.file} />{/if}</td
            >
          </tr>
        {/each}
      {/each}
    </tbody>
  </table>
{/if}

{#if overlap.vanished_entries}
  <h3 class="text-error mb-1 font-medium">
    {plural(overlap.vanished_entries, 'entry', 'entries')} of the journal {overlap.vanished_entries ===
    1
      ? 'is'
      : 'are'} not in the file
  </h3>
  <p class="text-soft mb-2">
    They came with the same files and are of the days of this one. They stay in the journal.
    {#if overlap.vanished.length < overlap.vanished_entries}
      These are the first {overlap.vanished.length}.
    {/if}
  </p>
  <table class="ledger mb-5 max-w-4xl">
    <thead>
      <tr><th>Entry</th><th>Date</th><th>Accounts</th><th class="num amount">Debits</th></tr>
    </thead>
    <tbody>
      {#each overlap.vanished as entry, n (n)}
        <tr>
          <td class="font-medium">{entry.number}</td>
          <td>{longDate(entry.date)}</td>
          <td>{[...new Set(entry.lines.map((line) => line.account))].join(', ')}</td>
          <td class="num"><Money amount={entry.debits} /></td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
