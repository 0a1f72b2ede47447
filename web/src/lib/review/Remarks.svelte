<!-- What else is odd, kind by kind. -->
<script lang="ts">
  import type { Review } from './settled';

  let { remarks, show }: { remarks: Review['others']; show: (account: number) => void } = $props();
  const kinds = $derived([...new Map(remarks.map(({ kind, title }) => [kind, title]))]);
</script>

{#each kinds as [kind, title] (kind)}
  {@const own = remarks.filter((remark) => remark.kind === kind)}
  <h3 class="mt-5 mb-1 font-semibold first-letter:uppercase">
    {title} <span class="text-soft font-normal">{own.length}</span>
  </h3>
  <ul>
    {#each own as remark (remark.message)}
      <li class="border-rule flex items-baseline gap-4 border-b py-2">
        <span class="grow">{remark.message}</span>
        <button class="btn btn-xs btn-quiet" onclick={() => show(remark.accounts[0] ?? 0)}
          >Show the row</button
        >
      </li>
    {/each}
  </ul>
{:else}
  <p class="text-soft py-4">Nothing else is odd.</p>
{/each}
