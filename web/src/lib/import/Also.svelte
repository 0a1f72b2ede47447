<!-- What else the workbook holds, in the order in which it is imported. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import type { WaitingFile } from './waiting.svelte';

  let { file }: { file: WaitingFile } = $props();
  const books = getBooks();
  const looked = $derived(file.looked!);
  // Books that have a chart need none before their journal.
  const empty = $derived(books.chart?.rows.length === 0);
  const before = $derived(looked.other_sheets.filter((other) => other.before && empty));
  const after = $derived(looked.other_sheets.filter((other) => !other.before));
</script>

{#if before.length || after.length}
  <section class="border-rule mb-4 border-b pb-4" aria-label="The rest of the workbook">
    <h2 class="mb-1 text-base">The rest of the workbook</h2>
    {#each before as { kind, words, sheet } (kind)}
      <p class="mb-1">
        The <b class="font-semibold">{words}</b> on “{sheet}” comes first.
        {#if file.source}
          <button class="link" onclick={() => file.readAs(kind)}>Import it first</button>
        {/if}
      </p>
    {/each}
    {#if after.length}
      <p class="text-soft">
        Then {#each after as { kind, words, sheet }, n (kind)}{n ? ', and then ' : ''}the {words} on “{sheet}”{/each}:
        the next is shown once this is stored.
      </p>
    {/if}
  </section>
{/if}
