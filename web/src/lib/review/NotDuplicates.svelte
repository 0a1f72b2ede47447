<!-- Accounts that somebody has said are not the same thing, and why. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import { instant } from '../figures';
  import type { Review } from './settled';

  let {
    marked,
    unmark,
  }: { marked: Review['not_duplicates']; unmark: (id: number) => Promise<void> } = $props();
  const books = getBooks();
</script>

<ul>
  {#each marked as mark (mark.id)}
    <li class="border-rule flex items-baseline gap-4 border-b py-3">
      <span class="grow">
        {mark.accounts.map((account) => books.label(account)).join(', ')}
        <span class="block">“{mark.reason}”</span>
        <span class="hint">{mark.person}, {instant(mark.at)}</span>
      </span>
      <button class="btn btn-xs btn-quiet" onclick={() => unmark(mark.id)}
        >Propose them again</button
      >
    </li>
  {:else}
    <li class="text-soft py-4">No accounts were marked as not duplicates yet.</li>
  {/each}
</ul>
