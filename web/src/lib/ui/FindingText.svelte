<!-- What a stop or a caution says, and who goes on in spite of it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Finding } from '../books.svelte';

  let { finding, children }: { finding: Finding; children?: Snippet } = $props();
  const stop = $derived(finding.severity === 'stop' && !finding.overridden);
</script>

<p class="leading-snug">
  <b class={stop ? 'text-error' : 'text-warning'}>{stop ? 'Stop' : 'Caution'}: {finding.title}.</b>
  {finding.sentence}
  {@render children?.()}
</p>
{#if finding.overridden}
  <p class="mt-1 italic">
    {finding.overridden_by ?? 'Somebody'} goes on, because: {finding.overridden}
  </p>
{/if}
