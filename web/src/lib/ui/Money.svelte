<!-- An amount: debits plain, credits marked by a word, zero in grey. -->
<script lang="ts">
  import { isCredit, isZero, magnitude } from '../figures';

  let { amount, blank = false }: { amount: string; blank?: boolean } = $props();
</script>

{#if isZero(amount)}
  <span class="text-soft">{blank ? '' : magnitude(amount)}</span><span class="ml-1 inline-block w-3"
  ></span>
{:else}
  {magnitude(amount)}<span class="text-soft ml-1 inline-block w-3 text-left text-[11px]"
    >{isCredit(amount) ? 'Cr' : ''}</span
  >
{/if}
