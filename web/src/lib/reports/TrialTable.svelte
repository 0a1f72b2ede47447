<!-- The trial balance in one of its forms, class by class: every figure leads to its entries. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { count, instant, longDate, plural } from '../figures';
  import Figure from '../journal/Figure.svelte';
  import { cardOf } from '../sheet/address';
  import Money from '../ui/Money.svelte';
  import { Drawn } from './drawn.svelte';
  import MoreRows from './MoreRows.svelte';

  let { trial, by }: { trial: Schemas['TrialView']; by: string } = $props();

  const books = getBooks();
  const drawn = new Drawn();
  type Column = Schemas['TrialColumnView'];
  type Row = Schemas['TrialRowView'];
  const groups = $derived(
    trial.classes
      .map((of) => ({ ...of, rows: trial.rows.filter((row) => row.class === of.class) }))
      .filter(({ rows }) => rows.length),
  );
  const LABELS: Record<Column['figure'], string> = {
    opening: 'opening balance on',
    debits: 'debits up to',
    credits: 'credits up to',
    movement: 'moved up to',
    closing: 'closing balance on',
    debit_balance: 'debit on',
    credit_balance: 'credit on',
  };
  const ofTime = (row: Row) => row.class === 'income' || row.class === 'expense';
  const since = $derived(trial.columns[0]?.since);
</script>

<table class="ledger trial">
  <thead class="bg-base-100 sticky top-0 z-1">
    <tr class="hidden print:table-row">
      <th colspan={trial.columns.length + 2}
        >{books.chart?.name}: Trial balance<br /><span class="font-normal"
          >{books.chart?.currency}, up to {longDate(trial.columns.at(-1)?.until ?? '')}, printed by {by}
          on {instant(new Date().toISOString())}</span
        ></th
      >
    </tr>
    <tr>
      <th class="code">Code</th>
      <th class="name">Account</th>
      {#each trial.columns as { figure, until } (`${figure} ${until}`)}
        <th class="num amount">{LABELS[figure]}<br />{longDate(until)}</th>
      {/each}
    </tr>
  </thead>
  {#each groups as group (group.class)}
    <tbody>
      <tr><th class="class" colspan={trial.columns.length + 2}>{books.titleOf(group.class)}</th></tr
      >
      {#each drawn.of(group.class, group.rows) as row (`${row.account} ${row.code} ${row.name}`)}
        <tr>
          <td class="text-soft">{row.code}</td>
          <td>
            {#if row.account}<a class="hover:underline" href={cardOf(books.id, row.account)}
                >{row.name}</a
              >{:else}{row.name}{/if}
          </td>
          {#each trial.columns as column, n (n)}
            {@const amount = row.amounts[n] ?? '0'}
            <td class="num">
              {#if row.account}
                <Figure
                  {amount}
                  account={row.account}
                  of={row.name}
                  from={column.from ?? (ofTime(row) ? column.since : null)}
                  to={column.until}
                />
              {:else}<Money {amount} />{/if}
            </td>
          {/each}
        </tr>
      {/each}
      <MoreRows
        left={group.rows.length - drawn.of(group.class, group.rows).length}
        columns={trial.columns.length + 2}
        more={() => drawn.more(group.class)}
      />
      <tr class="sum">
        <td></td><td>Total {books.titleOf(group.class).toLowerCase()}</td>
        {#each group.amounts as amount, n (n)}<td class="num"><Money {amount} /></td>{/each}
      </tr>
    </tbody>
  {/each}
  <tbody>
    <tr class="total">
      <td></td><td>All accounts</td>
      {#each trial.totals as amount, n (n)}<td class="num"><Money {amount} /></td>{/each}
    </tr>
  </tbody>
</table>
<p class="text-soft mt-3 text-[13px]">
  {#if trial.left_out}{plural(trial.left_out, 'account')} on which nothing stands
    {trial.left_out === 1 ? 'is' : 'are'} left out of {count(trial.left_out + trial.rows.length)} rows.{/if}
  {#if since}Income and expenses count from {longDate(since)}.{/if}
</p>

<style>
  .trial td {
    padding-block: 3px;
  }
  .trial thead th {
    border-bottom: 0;
    box-shadow: inset 0 -1px 0 var(--rule-strong);
    vertical-align: bottom;
  }
  .code {
    width: 5rem;
  }
  .name {
    min-width: 14rem;
  }
  .class {
    padding-top: 14px;
    color: var(--color-base-content);
    font-size: 14px;
    font-weight: 600;
  }
  @media print {
    .trial {
      font-size: 9pt;
    }
    .trial td {
      padding-block: 1px;
    }
  }
</style>
