<!-- Balances beside those of the journal, account by account. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import { longDate, plural, signed } from '../figures';
  import Money from '../ui/Money.svelte';
  import Pick from './Pick.svelte';
  import type { WaitingFile } from './waiting.svelte';

  let { file }: { file: WaitingFile } = $props();
  const books = getBooks();
  const balances = $derived(file.looked!.balances!);
  const periods = $derived(
    (books.chart?.periods ?? [])
      .map(({ period, last }): [string, string] => [`${period}`, longDate(last)])
      .reverse(),
  );
</script>

{#if periods.length}
  <div class="mt-3 mb-1 flex items-baseline gap-4">
    <h2 class="grow text-lg">Beside the journal</h2>
    <span class="hint shrink-0">at the end of</span>
    <div class="w-44">
      <Pick
        label="The day up to which the journal counts"
        {file}
        options={periods}
        value={`${balances.as_of}`}
        none="choose…"
        pick={(period) => file.choose({ as_of: Number(period) })}
      />
    </div>
  </div>
  {#if balances.differing === 0}
    <p class="text-success font-medium">
      {plural(balances.agree, 'account agrees', 'accounts agree')}; every difference is 0.00.
    </p>
  {:else}
    <p class="text-soft mb-2">
      {plural(balances.agree, 'account agrees', 'accounts agree')}, {plural(
        balances.differing,
        'differs',
        'differ',
      )}:
    </p>
    <table class="ledger">
      <thead>
        <tr>
          <th>Code</th><th>Name</th><th class="num amount">In the file</th><th class="num amount"
            >In the journal</th
          ><th class="num">Difference</th>
        </tr>
      </thead>
      <tbody>
        {#each balances.differences as row, n (n)}
          <tr>
            <td class="font-medium">{row.code}</td>
            <td>{row.name}</td>
            <td class="num"><Money amount={row.file} /></td>
            <td class="num"><Money amount={row.books} /></td>
            <td class="num text-error font-medium">{signed(row.difference)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  <h2 class="mt-6 text-lg">The file</h2>
{/if}
