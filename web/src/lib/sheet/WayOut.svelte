<!-- What blocks the row under the cursor, and the ways out, beside the row. -->
<script lang="ts">
  import type { Finding } from '../books.svelte';
  import { getSheet } from './sheet.svelte';
  import FindingText from '../ui/FindingText.svelte';
  import WaysOut from '../ui/WaysOut.svelte';

  let { findings, top, above }: { findings: Finding[]; top: number; above: boolean } = $props();
  const sheet = getSheet();
</script>

<div class={['pop', above && 'above']} role="note" style:top="{top}px">
  {#each findings.slice(0, 3) as finding (finding.key)}
    <FindingText {finding} />
    <div class="my-2 flex flex-wrap gap-2">
      <WaysOut {finding} take={(edits) => sheet.stage(edits)} />
    </div>
  {/each}
  {#if findings.length > 3}<p class="hint">
      and {findings.length - 3} more on the plan’s page
    </p>{/if}
</div>

<style>
  .pop {
    position: absolute;
    right: 22px;
    z-index: 5;
    width: 340px;
    padding: 10px 12px 4px;
    background: var(--color-base-100);
    border: 1px solid var(--rule-strong);
    border-radius: 8px;
    box-shadow: 0 8px 24px var(--shadow);
    font-size: 13px;
  }
  .pop.above {
    transform: translateY(-100%);
  }
</style>
