<!-- The day up to which figures are shown, as a button to lay another one down. -->
<script lang="ts">
  import { getBooks } from '$lib/books.svelte';
  import { longDate, plural } from '$lib/figures';

  let { choose }: { choose: () => void } = $props();
  const asOf = $derived(getBooks().chart?.as_of);
</script>

{#if asOf}
  <button
    class="cursor-pointer underline decoration-dotted underline-offset-4"
    onclick={choose}
    title="Choose up to which day figures are shown">as of {longDate(asOf.date)}</button
  >{#if asOf.lines_ahead}<span class="text-warning">
      · {plural(asOf.lines_ahead, 'line')} dated ahead</span
    >{/if} ·
{/if}
