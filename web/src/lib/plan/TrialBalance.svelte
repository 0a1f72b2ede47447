<!-- Today and After side by side, ruled as on paper: each class with its subtotal, and the whole. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { isZero, signed } from '../figures';
  import { getBooks } from '../books.svelte';
  import Money from '../ui/Money.svelte';

  let {
    report,
    trials = null,
    proved = false,
  }: {
    report: Schemas['Report'];
    /** Every account, where they are to be shown. */
    trials?: Schemas['TrialBalances'] | null;
    proved?: boolean;
  } = $props();

  const books = getBooks();

  interface Line {
    key: string;
    today?: Schemas['TrialLine'];
    after?: Schemas['TrialLine'];
  }

  /** Accounts of a class on both sides, in one order: what has another code stands in both places. */
  function lines(of: string): Line[] {
    const found = new Map<string, Line>();
    const put = (side: 'today' | 'after', list: Schemas['TrialLine'][]) => {
      for (const line of list.filter((l) => l.class === of)) {
        const key = `${line.code} ${line.name}`;
        found.set(key, { ...found.get(key), key, [side]: line });
      }
    };
    put('today', trials?.trial_today ?? []);
    put('after', trials?.trial_after ?? []);
    const collator = new Intl.Collator('en', { numeric: true });
    return [...found.values()].sort((a, b) => collator.compare(a.key, b.key));
  }
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
      {#if trials}
        {#each lines(figures.class) as line (line.key)}
          <tr class={[(!line.today || !line.after) && 'text-warning']}>
            <td>
              <span class="text-soft inline-block w-14">{(line.after ?? line.today)?.code}</span>
              {(line.after ?? line.today)?.name}
            </td>
            <td class="num"
              >{#if line.today}<Money amount={line.today.balance} />{/if}</td
            >
            <td class="num"
              >{#if line.after}<Money amount={line.after.balance} />{/if}</td
            >
            <td></td>
          </tr>
        {/each}
      {/if}
      <tr class={trials ? 'sum' : ''}>
        <td>{books.titleOf(figures.class)}</td>
        <td class="num"><Money amount={figures.today} /></td>
        <td class="num"><Money amount={figures.after} /></td>
        <td class={['num', isZero(figures.difference) ? 'text-soft' : 'text-error']}>
          {signed(figures.difference)}
        </td>
      </tr>
    {/each}
    <tr class="total">
      <td>All accounts</td>
      <td class="num">0.00<span class="ml-1 inline-block w-3"></span></td>
      <td class="num">0.00<span class="ml-1 inline-block w-3"></span></td>
      <td class={['num', proved && 'text-success']}>0.00</td>
    </tr>
  </tbody>
</table>
