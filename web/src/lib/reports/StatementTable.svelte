<!-- A statement, line by line: its lines open in place to the accounts that stand on them. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { instant, isZero, longDate, percent, plural, signed } from '../figures';
  import { journal } from '../journal/address';

  let {
    statement,
    columns,
    spans,
    by,
    show,
  }: {
    statement: Schemas['StatementView'];
    columns: Schemas['StatementColumn'][];
    /** Whether a column holds the months up to its day, or what stands on that day. */
    spans: boolean;
    /** Who looks at it. */
    by: string;
    show: (account: number) => void;
  } = $props();

  const books = getBooks();
  type Row = Schemas['StatementRow'];
  const open = $state<Record<string, boolean>>({});
  // What a class adds up to stands at its end.
  const isTitle = (row: Row) => row.kind === 'heading' && row.level === 0;
  const key = (row: Row) => `${statement.kind} ${row.line ?? row.label}`;
  const canOpen = (row: Row) => row.accounts.length > 0;
  const grew = $derived(statement.rows.some((row) => typeof row.difference === 'string'));
  const lines = $derived(statement.rows.filter(canOpen));
  const allOpen = $derived(lines.length > 0 && lines.every((row) => open[key(row)]));

  function toggleAll() {
    const to = !allOpen;
    for (const row of lines) open[key(row)] = to;
  }

  function onkeydown(event: KeyboardEvent & { currentTarget: HTMLElement }, row: Row) {
    const body = event.currentTarget.closest('tbody');
    const stops = [...(body?.querySelectorAll<HTMLElement>('[data-stop]') ?? [])];
    const at = stops.indexOf(event.currentTarget);
    if (event.key === 'ArrowDown') stops[at + 1]?.focus();
    else if (event.key === 'ArrowUp') stops[at - 1]?.focus();
    else if (event.key === 'ArrowRight') open[key(row)] = true;
    else if (event.key === 'ArrowLeft') open[key(row)] = false;
    else return;
    event.preventDefault();
  }
</script>

{#snippet amounts(row: Row)}
  {#each row.amounts as amount, n (n)}
    <td class={['num', isZero(amount) && 'text-soft']}>{isTitle(row) ? '' : signed(amount)}</td>
  {/each}
{/snippet}

{#snippet entries({ account, amounts, name }: Schemas['StandingView'])}
  {#each columns as { from, until }, n (until)}
    {@const amount = amounts[n] ?? ''}
    <td class="num text-soft text-[13px]"
      >{#if amount && !isZero(amount)}<a
          class="hover:underline"
          href={journal(books.id, { account, from: spans ? from : null, to: until })}
          title="The entries of {name} that make it up">{signed(amount)}</a
        >{/if}</td
    >
  {/each}
{/snippet}

<table class="ledger statement">
  <thead class="bg-base-100 sticky top-0 z-1">
    <tr class="hidden print:table-row">
      <th class="name" colspan={columns.length + 3}
        >{books.chart?.name}: {statement.name}<br /><span class="font-normal"
          >{books.chart?.currency}, up to {longDate(columns[0]?.until ?? '')}, printed by {by} on {instant(
            new Date().toISOString(),
          )}</span
        ></th
      >
    </tr>
    <tr>
      <th class="name">
        {#if lines.length}
          <button class="link text-xs font-normal print:hidden" onclick={toggleAll}
            >{allOpen ? 'Close all lines' : 'Open all lines'}</button
          >
        {/if}
      </th>
      {#each columns as { months, until } (until)}
        <th class="num amount"
          >{#if spans}{months === 1 ? 'month' : `${months} months`} to<br />{/if}{longDate(
            until,
          )}</th
        >
      {/each}
      {#if grew}
        <th class="num amount">more than<br />the one beside</th>
        <th class="num">in %</th>
      {/if}
    </tr>
  </thead>
  <tbody>
    {#each statement.rows as row (key(row))}
      {@const isOpen = open[key(row)] ?? false}
      <tr class={[`of-${row.kind}`, !row.class && 'whole']}>
        <td style:padding-left="{row.level * 20}px">
          {#if canOpen(row)}
            <button
              data-stop
              class="cursor-pointer text-left"
              aria-expanded={isOpen}
              onclick={() => (open[key(row)] = !isOpen)}
              onkeydown={(event) => onkeydown(event, row)}
              ><span class="sign text-soft print:invisible" aria-hidden="true"
                >{isOpen ? '–' : '+'}</span
              >{row.label}<span class="text-soft ml-2 text-[11px] font-normal print:hidden"
                >{plural(row.accounts.length, 'account')}</span
              ></button
            >
          {:else}<span class="sign"></span>{row.label}{/if}
        </td>
        {@render amounts(row)}
        {#if grew}
          <td class="num text-soft font-normal!"
            >{isTitle(row) ? '' : signed(row.difference ?? '0')}</td
          >
          <td class="num text-soft font-normal!"
            >{isTitle(row) || typeof row.change !== 'number' ? '' : percent(row.change)}</td
          >
        {/if}
      </tr>
      {#if isOpen}
        {#each row.accounts as account (`${account.account} ${account.code} ${account.name}`)}
          <tr class={[account.note.startsWith('takes') && 'taking']}>
            <td style:padding-left="{row.level * 20 + 36}px" class="text-[13px]">
              <button
                data-stop
                class="cursor-pointer text-left hover:underline"
                onclick={() => show(account.account)}
                onkeydown={(event) => onkeydown(event, row)}
                ><span class="text-soft mr-2">{account.code}</span
                >{account.name}{#if account.note}<b class="text-warning ml-2 font-semibold"
                    >{account.note}</b
                  >{/if}</button
              >
            </td>
            {@render entries(account)}
            {#if grew}<td></td><td></td>{/if}
          </tr>
        {/each}
      {/if}
    {/each}
  </tbody>
</table>

<style>
  .statement td {
    padding-block: 3px;
  }
  .statement th {
    /* The rule of a head that stays in place scrolls away with the rows. */
    border-bottom: 0;
    box-shadow: inset 0 -1px 0 var(--rule-strong);
    vertical-align: bottom;
  }
  .name {
    min-width: 20rem;
    text-align: left;
  }
  /* Of many columns the names stay in sight. */
  .name,
  .statement td:first-child {
    position: sticky;
    left: 0;
    background: var(--color-base-100);
  }
  .statement .taking td {
    background: var(--ochre-wash);
  }
  .sign {
    display: inline-block;
    width: 16px;
  }
  .of-heading td,
  .of-total td {
    font-weight: 600;
  }
  .of-total td {
    border-top: 1px solid var(--rule-strong);
    padding-bottom: 9px;
  }
  .whole td {
    border-bottom: 3px double currentcolor;
    padding-bottom: 3px;
  }
  @media print {
    .statement td {
      padding-block: 1px;
    }
    .statement {
      font-size: 9pt;
    }
    .name {
      min-width: 0;
      width: 45%;
    }
    .statement .amount {
      width: auto;
    }
  }
</style>
