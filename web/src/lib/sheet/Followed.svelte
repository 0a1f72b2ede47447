<!-- The accounts that one follows: a short list of one's own on top of the sheet. -->
<script lang="ts">
  import Money from '../ui/Money.svelte';
  import { getSheet } from './sheet.svelte';

  const sheet = getSheet();
  const rows = $derived(
    sheet.books.chart?.followed.flatMap((account) => sheet.books.byId.get(account) ?? []) ?? [],
  );
</script>

{#if rows.length}
  <ul class="followed" aria-label="Accounts that you follow">
    {#each rows as row (row.id)}
      <li>
        <button
          class="hover:bg-plum-wash cursor-pointer rounded px-2 py-0.5"
          onclick={() => sheet.reveal(row.id)}
        >
          <b class="text-soft font-medium">{row.code}</b>
          {row.name}
          <span class="text-soft ml-1"><Money amount={row.balance} /></span>
        </button>
      </li>
    {/each}
  </ul>
{/if}

<style>
  .followed {
    display: flex;
    gap: 4px 10px;
    overflow-x: auto;
    padding: 4px 12px;
    border-bottom: 1px solid var(--rule);
    white-space: nowrap;
  }
</style>
