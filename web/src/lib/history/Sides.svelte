<!-- Every account concerned, year by year, today and after. -->
<script lang="ts">
  import { longDate } from '../figures';
  import Money from '../ui/Money.svelte';
  import { getMoving } from './moving.svelte';

  const moving = getMoving();
  const sides = $derived(moving.preview?.sides.filter((side) => side.account !== 0) ?? []);
  const ends = $derived(
    [...new Set(sides.flatMap((side) => side.years.map(({ end }) => end)))].sort().reverse(),
  );
  const year = (account: number, end: string) =>
    sides.find((side) => side.account === account)?.years.find((y) => y.end === end);
</script>

{#if ends.length}
  <div class="overflow-x-auto">
    <table class="ledger">
      <thead>
        <tr>
          <th></th>
          {#each sides as side, n (side.account)}
            <th
              colspan="2"
              class="num amount max-w-52 truncate"
              title={moving.books.label(side.account)}
            >
              <b class={['font-semibold', n > 0 && 'text-warning']}
                >{moving.books.label(side.account)}</b
              >
            </th>
          {/each}
        </tr>
        <tr>
          <th>Year to</th>
          {#each sides as side (side.account)}
            <th class="num amount">Today</th><th class="num amount">After</th>
          {/each}
        </tr>
      </thead>
      <tbody>
        {#each ends as end (end)}
          <tr>
            <td class="whitespace-nowrap">{longDate(end)}</td>
            {#each sides as side (side.account)}
              {@const of = year(side.account, end)}
              <td class="num text-soft"><Money amount={of?.today ?? '0.00'} /></td>
              <td class={['num', of && of.today !== of.after && 'text-warning font-semibold']}
                ><Money amount={of?.after ?? '0.00'} /></td
              >
            {/each}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
{/if}
