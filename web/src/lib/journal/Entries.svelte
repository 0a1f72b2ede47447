<!-- A table of entries with all their lines. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import Entry from './Entry.svelte';

  let {
    entries,
    account,
  }: {
    entries: Schemas['JournalEntry'][];
    /** Whose lines are marked. */
    account: number | null;
  } = $props();
</script>

<table class="w-full">
  <thead class="text-left">
    <tr class="hint">
      <th class="w-36 font-normal">Date</th>
      <th class="font-normal">Account</th>
      <th class="font-normal">Payee and text</th>
      <th class="font-normal">Reference</th>
      <th class="num w-28 font-normal">Debit</th>
      <th class="num w-28 font-normal">Credit</th>
    </tr>
  </thead>
  {#each entries as entry (entry.id)}<Entry {entry} {account} />{/each}
</table>

<style>
  thead {
    position: sticky;
    top: 0;
    z-index: 1;
    background: var(--color-base-100);
  }
</style>
