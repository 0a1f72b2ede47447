<!-- The latest fiscal years beside each other: what every account stands at, and would be restated to. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { longDate } from '../figures';
  import { getBooks } from '../books.svelte';
  import Money from '../ui/Money.svelte';

  let {
    told,
    rows,
    show,
  }: {
    told: Schemas['ComparativeView'];
    rows: Schemas['ComparedView'][];
    show: (account: number) => void;
  } = $props();

  const books = getBooks();
  const of = $derived(Map.groupBy(rows, (row) => row.class));
</script>

{#snippet figures(list: Schemas['FigureView'][])}
  {#each list as { today, after }, n (n)}
    <td class={['num', today !== after && 'text-warning font-semibold']}>
      <Money amount={after} blank={today === after} />
      {#if today !== after}
        <span class="hint block leading-tight font-normal">was <Money amount={today} /></span>
      {/if}
    </td>
  {/each}
{/snippet}

<table class="ledger years">
  <thead class="bg-base-100 sticky top-0 z-1">
    <tr>
      <th class="name"></th>
      {#each told.years as { end, until } (end)}
        <th class="num amount">{end === until ? longDate(end) : `to ${longDate(until)}`}</th>
      {/each}
    </tr>
  </thead>
  <tbody>
    {#each told.classes as total (total.class)}
      {#each of.get(total.class) ?? [] as row (row.account)}
        <tr>
          <td>
            <span class="text-soft inline-block w-14">{row.code}</span>
            {#if row.account}
              <button
                class="cursor-pointer text-left hover:underline"
                onclick={() => row.account && show(row.account)}>{row.name}</button
              >
            {:else}{row.name}{/if}
            {#if row.note}<span class="badge badge-ghost badge-xs ml-1.5">{row.note}</span>{/if}
          </td>
          {@render figures(row.figures)}
        </tr>
      {/each}
      <tr class="sum">
        <td>{books.titleOf(total.class)}</td>
        {@render figures(total.figures)}
      </tr>
    {/each}
  </tbody>
</table>

<style>
  .years td {
    padding-block: 3px;
  }
  .years th {
    /* The rule of a head that stays in place scrolls away with the rows. */
    border-bottom: 0;
    box-shadow: inset 0 -1px 0 var(--rule-strong);
  }
  .years .name {
    min-width: 18rem;
  }
</style>
