<!-- What is marked on a statement, and the way to merge it. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import type { Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { plural } from '../figures';
  import type { Marks } from './marks.svelte';
  import MergeItems from './MergeItems.svelte';

  let { marks, columns }: { marks: Marks; columns: Schemas['StatementColumn'][] } = $props();

  const books = getBooks();
  let asking = $state(false);

  async function merge() {
    if (marks.items.size) asking = true;
    else await goto(`/books/${books.id}/merge?accounts=${[...marks.accounts].join(',')}`);
  }
</script>

{#if marks.items.size || marks.accounts.size}
  <p class="mb-2 flex items-baseline gap-3 print:hidden" role="status">
    <b class="font-semibold"
      >{marks.items.size
        ? plural(marks.items.size, 'item')
        : plural(marks.accounts.size, 'account')} marked</b
    >
    {#if marks.inTheWay}<span class="hint">{marks.inTheWay}</span>
    {:else}<button class="btn btn-sm btn-primary" onclick={merge}>Merge them…</button>{/if}
    <button class="link" onclick={() => marks.clear()}>Mark nothing</button>
  </p>
{/if}
{#if asking}<MergeItems {marks} {columns} close={() => (asking = false)} />{/if}
