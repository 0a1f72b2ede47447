<!-- The day up to which figures are shown, as a button to lay another one down. -->
<script lang="ts">
  import { page } from '$app/state';
  import { getBooks } from '$lib/books.svelte';
  import { longDate, plural } from '$lib/figures';

  let { choose }: { choose: () => void } = $props();
  const asOf = $derived(getBooks().chart?.as_of);
</script>

{#if asOf}
  <button
    class="cursor-pointer underline decoration-dotted underline-offset-4"
    onclick={choose}
    title="Choose up to which day figures are shown"
    >{asOf.for_once ? 'shown as of' : 'as of'} {longDate(asOf.date)}</button
  >
  {#if asOf.for_once}
    · <a class="link" href={page.url.pathname}>back to the books’ day</a>
  {:else if asOf.lines_ahead}
    <span class="text-warning">· {plural(asOf.lines_ahead, 'line')} dated ahead</span>
  {/if}
  ·
{/if}
