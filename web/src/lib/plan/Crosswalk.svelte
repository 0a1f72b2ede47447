<!-- The crosswalk: every account that changes, grouped by the kind of change. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count, plural } from '../figures';
  import Balance from '../journal/Balance.svelte';
  import Money from '../ui/Money.svelte';

  let {
    crosswalk,
    counts,
    unstage,
    linked = true,
  }: {
    crosswalk: Schemas['Crossing'][];
    counts: Schemas['ChangeCount'][];
    unstage?: (account: number) => void;
    /** Whether an amount leads to its entries. */
    linked?: boolean;
  } = $props();

  const groups = $derived(
    counts.map(({ change, words }) => ({
      change,
      title: words.charAt(0).toUpperCase() + words.slice(1),
      rows: crosswalk.filter((crossing) => crossing.changes.includes(change)),
    })),
  );
</script>

{#each groups as group (group.change)}
  <h3 class="mt-5 mb-1 text-base">
    {group.title} <span class="hint font-sans">{plural(group.rows.length, 'account')}</span>
  </h3>
  <table class="ledger table-fixed">
    <colgroup>
      <col class="w-16" /><col /><col class="w-16" /><col /><col class="w-20" /><col class="w-32" />
      {#if unstage}<col class="w-24" />{/if}
    </colgroup>
    <thead>
      <tr>
        <th>Old</th><th></th><th>New</th><th></th><th class="num">Lines</th><th class="num amount"
          >Balance</th
        >
        {#if unstage}<th></th>{/if}
      </tr>
    </thead>
    <tbody>
      {#each group.rows as crossing (crossing.account)}
        <tr>
          <td class="text-soft font-medium">{crossing.old_code ?? ''}</td>
          <td>{crossing.old_name ?? '–'}</td>
          <td
            class={crossing.old_code === crossing.new_code
              ? 'text-soft'
              : 'text-warning font-semibold'}
          >
            {crossing.new_code ?? ''}
          </td>
          <td
            class={crossing.old_name === crossing.new_name
              ? 'text-soft'
              : 'text-warning font-semibold'}
          >
            {crossing.new_name ?? 'deleted'}
            {#if crossing.detail}<span class="hint block font-normal">{crossing.detail}</span>{/if}
          </td>
          <td class="num text-soft">{count(crossing.lines)}</td>
          <td class="num"
            >{#if linked}<Balance
                amount={crossing.balance}
                account={crossing.account}
              />{:else}<Money amount={crossing.balance} />{/if}</td
          >
          {#if unstage}
            <td class="num">
              {#if group.change !== 'rewritten'}
                <button class="btn btn-xs btn-quiet" onclick={() => unstage(crossing.account)}
                  >Undo</button
                >
              {/if}
            </td>
          {/if}
        </tr>
      {/each}
    </tbody>
  </table>
{/each}
