<!-- The file's zero: what became of every row and of every amount. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count, isZero, magnitude, signed } from '../figures';

  let { zero }: { zero: Schemas['ZeroView'] } = $props();
  const counted = $derived(zero.left_out + zero.kinds.reduce((sum, { rows }) => sum + rows, 0));
</script>

<h2 class="mt-5 mb-1 text-base">The rows</h2>
<dl>
  {#each zero.kinds as { words, rows } (words)}
    <div class="border-rule flex justify-between gap-3 border-b py-1">
      <dt class="text-soft">{words}</dt>
      <dd class="font-medium">{count(rows)}</dd>
    </div>
  {/each}
  <div class="border-rule flex justify-between gap-3 border-b py-1">
    <dt class="text-soft">left out</dt>
    <dd class={['font-medium', zero.left_out && 'text-error']}>{count(zero.left_out)}</dd>
  </div>
  <div class="total-rule flex justify-between gap-3 py-1">
    <dt>rows of the file</dt>
    <dd class="font-semibold">{count(zero.rows)} = {count(counted)}</dd>
  </div>
</dl>
{#if zero.amounts.length}
  <h2 class="mt-4 mb-1 text-base">The amounts</h2>
  {#each zero.amounts as column, n (n)}
    <dl class="mb-2">
      <div class="flex justify-between gap-3 py-1">
        <dt>“{column.heading}”</dt>
        <dd class="font-semibold">{signed(column.sum)}</dd>
      </div>
      {#if !isZero(column.taken)}
        <div class="flex justify-between gap-3">
          <dt class="text-soft pl-3">taken</dt>
          <dd>{signed(column.taken)}</dd>
        </div>
      {/if}
      {#each column.left_out as { reason, sum, rows } (reason)}
        <div class="flex justify-between gap-3">
          <dt class="text-soft pl-3">{reason}, {count(rows)}</dt>
          <dd>{signed(sum)}</dd>
        </div>
      {/each}
    </dl>
  {/each}
  {#if !isZero(zero.difference)}
    <p class="text-error">{magnitude(zero.difference)} of the file are unaccounted for.</p>
  {/if}
{/if}
