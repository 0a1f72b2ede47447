<!-- The ways out of a stop or a caution: those that can be staged to be taken, the others told. -->
<script lang="ts">
  import type { Finding } from '../books.svelte';
  import type { Edit } from '../staging/edits';

  let { finding, take }: { finding: Finding; take: (edits: Edit[]) => unknown } = $props();
</script>

{#each finding.remedies as { label, account, wanted } (label)}
  {#if account && wanted}
    <button class="btn btn-xs btn-quiet" onclick={() => take([{ account, wanted }])}>{label}</button
    >
  {:else}<span class="hint">{label}</span>{/if}
{/each}
