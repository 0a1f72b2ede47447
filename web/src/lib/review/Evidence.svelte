<!-- What speaks for accounts being one, the strongest first, and what speaks against it. -->
<script lang="ts">
  import type { LookAlike } from './settled';

  let { group }: { group: LookAlike } = $props();
</script>

<p class="hint leading-relaxed">
  <b class="text-base-content font-semibold">{group.score} of 100 sure.</b>
  {group.evidence.join(' ')}
</p>
{#if group.against.length}
  <p class="hint leading-relaxed">
    <b class="text-warning font-semibold">Against it:</b>
    {group.against.join(' ')}
  </p>
{/if}
