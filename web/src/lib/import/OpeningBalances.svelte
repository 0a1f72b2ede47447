<!-- What balances add up to, and what it takes to open the books with them. -->
<script lang="ts">
  import { isZero, magnitude, signed } from '../figures';
  import type { Opening } from './opening.svelte';
  import type { WaitingFile } from './waiting.svelte';

  let { file, opening }: { file: WaitingFile; opening: Opening } = $props();
  const balances = $derived(file.looked!.balances!);
  const typed = $derived(opening.total.replace(/[\s,]/g, ''));
  const plain = (amount: string) => amount.replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, '');
  const same = $derived(plain(typed) === plain(balances.debits));
</script>

<h2 class="mb-2 text-base">What they add up to</h2>
<dl class="mb-5" aria-live="polite">
  <div>
    <dt>Debits</dt>
    <dd>{magnitude(balances.debits)}</dd>
  </div>
  <div>
    <dt>Credits</dt>
    <dd>{magnitude(balances.credits)}</dd>
  </div>
  <div>
    <dt>Gap</dt>
    <dd class={isZero(balances.gap) ? 'text-success' : 'text-error'}>{signed(balances.gap)}</dd>
  </div>
  <div>
    <dt><label for="source-total">Total of the source document</label></dt>
    <dd>
      <input
        id="source-total"
        class="input input-sm w-28 text-right"
        placeholder="debits"
        inputmode="decimal"
        bind:value={opening.total}
      />
    </dd>
  </div>
</dl>
{#if typed}
  <p class={['mb-5 rounded px-3 py-2', same ? 'bg-plum-wash' : 'bg-brick-wash text-error']}>
    {same
      ? 'The debits are what the source document says.'
      : `The debits are ${magnitude(balances.debits)}, and not what the source document says.`}
  </p>
{/if}
<h2 class="mb-2 text-base">To open the books with them</h2>
<label class="mb-3 grid gap-1">
  <span class="text-soft">They are the balances at the start of</span>
  <input type="date" class="input input-sm" bind:value={opening.date} />
</label>
{#if !isZero(balances.gap)}
  {#if balances.gap_account}
    <label class="flex gap-2">
      <input type="checkbox" class="checkbox checkbox-sm mt-0.5" bind:checked={opening.takeGap} />
      <span>{balances.gap_account} takes the gap of {magnitude(balances.gap)}</span>
    </label>
  {:else}
    <p class="bg-ochre-wash rounded px-3 py-2">
      Debits and credits differ, and no account has the control role opening difference to take it.
    </p>
  {/if}
{/if}

<style>
  dl div {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 12px;
    padding: 5px 0;
    border-bottom: 1px solid var(--rule);
  }
  dt {
    color: var(--color-soft);
  }
  dd {
    font-weight: 500;
  }
</style>
