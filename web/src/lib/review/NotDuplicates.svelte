<!-- Accounts that somebody has said are not the same thing, and why. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import { instant } from '../figures';
  import type { Review } from './settled';

  let { told, forget }: { told: Review['apart']; forget: (id: number) => Promise<void> } = $props();
  const books = getBooks();
</script>

<ul>
  {#each told as apart (apart.id)}
    <li class="border-rule flex items-baseline gap-4 border-b py-3">
      <span class="grow">
        {apart.accounts.map((account) => books.label(account)).join(', ')}
        <span class="block">“{apart.reason}”</span>
        <span class="hint">{apart.person}, {instant(apart.at)}</span>
      </span>
      <button class="btn btn-xs btn-quiet" onclick={() => forget(apart.id)}
        >Propose them again</button
      >
    </li>
  {:else}
    <li class="text-soft py-4">Nothing was told apart yet.</li>
  {/each}
</ul>
