<!-- Today and After side by side, ruled as on paper: each class with its subtotal, and the whole. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { isZero, less, signed } from '../figures';
  import { getBooks } from '../books.svelte';
  import Balance from '../journal/Balance.svelte';
  import Money from '../ui/Money.svelte';

  let {
    report,
    lines = null,
    proved = false,
  }: {
    report: Schemas['ReportView'];
    /** Every account, where they are to be shown. */
    lines?: Schemas['TrialPair'][] | null;
    proved?: boolean;
  } = $props();

  const books = getBooks();
  // Whom the chart has under that code now; the code of one that went is found by searching for it.
  const bearers = $derived(new Map(books.chart?.rows.map((row) => [row.code, row])));
  const bearer = (line: Schemas['TrialPair']) => {
    const row = bearers.get(line.code);
    return row?.name === line.name ? row : undefined;
  };
</script>

<table class="ledger">
  <thead>
    <tr>
      <th></th><th class="num amount">{proved ? 'Before' : 'Today'}</th><th class="num amount"
        >After</th
      >
      <th class="num amount">Difference</th>
    </tr>
  </thead>
  <tbody>
    {#each report.classes as figures (figures.class)}
      {#each lines?.filter((line) => line.class === figures.class) as line (`${line.code} ${line.name}`)}
        {@const row = bearer(line)}
        {@const difference = less(line.after, line.today)}
        <tr class={[(!line.today || !line.after) && 'text-warning']}>
          <td>
            <span class="text-soft inline-block min-w-14 pr-2">{line.code}</span>
            {#if row}<a class="hover:underline" href="/books/{books.id}/chart?account={row.id}"
                >{line.name}</a
              >{:else}{line.name}{/if}
          </td>
          <td class="num"
            >{#if line.today && row && !proved}<Balance
                amount={line.today}
                account={row.id}
              />{:else if line.today}<Money amount={line.today} />{/if}</td
          >
          <td class="num"
            >{#if line.after && row && proved}<Balance
                amount={line.after}
                account={row.id}
              />{:else if line.after}<Money amount={line.after} />{/if}</td
          >
          <td class={['num', isZero(difference) ? 'text-soft' : 'text-warning']}
            >{signed(difference)}</td
          >
        </tr>
      {/each}
      <tr class={lines ? 'sum' : ''}>
        <td>
          <a
            class="hover:underline"
            href="/books/{books.id}/reports?statement=trial_balance"
            title="The accounts that make it up">{books.titleOf(figures.class)}</a
          >
        </td>
        <td class="num"><Money amount={figures.today} /></td>
        <td class="num"><Money amount={figures.after} /></td>
        <td class={['num', isZero(figures.difference) ? 'text-soft' : 'text-error']}>
          {signed(figures.difference)}
        </td>
      </tr>
    {/each}
    <tr class="total">
      <td>All accounts</td>
      <td class="num"><Money amount={report.all.today} /></td>
      <td class="num"><Money amount={report.all.after} /></td>
      <td
        class={[
          'num',
          !isZero(report.all.difference) ? 'text-error' : proved ? 'text-success' : '',
        ]}>{signed(report.all.difference)}</td
      >
    </tr>
  </tbody>
</table>
