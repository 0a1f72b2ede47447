<!-- A statement, row by row: its items open in place to the accounts that stand on them, and those to their months. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { instant, isZero, longDate, percent, plural, share, signed } from '../figures';
  import { journal, type EntriesQuery } from '../journal/address';
  import { cardOf } from '../sheet/address';
  import { short, type Query } from './query';
  import type { Marks } from './marks.svelte';
  import { Drawn } from './drawn.svelte';
  import { step } from './keys';
  import MoreRows from './MoreRows.svelte';
  import Months from './Months.svelte';

  let {
    statement,
    view,
    query,
    marks,
    by,
  }: {
    statement: Schemas['StatementView'];
    view: Schemas['StatementsView'];
    /** What is asked of the server. */
    query: Query;
    marks: Marks;
    /** Who looks at it. */
    by: string;
  } = $props();

  const books = getBooks();
  const drawn = new Drawn();
  type Row = Schemas['StatementRow'];
  type Standing = Schemas['StandingView'];
  const open = $state<Record<string, boolean>>({});
  const columns = $derived(view.columns);
  const readings = $derived(view.against ? [view.reading, view.against] : []);
  // Whether a column holds the months up to its day, or what stands on that day.
  const spans = $derived(statement.kind === 'income_statement');
  // What a class adds up to stands at its end.
  const isTitle = (row: Row) => row.kind === 'heading' && row.level === 0;
  const key = (row: Row) => `${statement.kind} ${row.class} ${row.item ?? row.label}`;
  type Heading = Schemas['HeadingView'];
  const keyOfHeading = (row: Row, of: Heading) => `${key(row)} under ${of.heading}`;
  const keyOf = (row: Row, of: Standing) => `${key(row)} ${of.account} ${of.code} ${of.name}`;
  const canOpen = (row: Row) => row.accounts.length > 0;
  const grew = $derived(
    !view.against &&
      statement.rows.some((row) => row.difference !== null && row.difference !== undefined),
  );
  const items = $derived(statement.rows.filter(canOpen));
  const allOpen = $derived(items.length > 0 && items.every((row) => open[key(row)]));

  function figure(amount: string | undefined, ratio: number | null | undefined): string {
    if (typeof ratio === 'number') return share(ratio);
    return amount ? signed(amount) : '';
  }

  function toggleAll() {
    const to = !allOpen;
    for (const row of items) {
      open[key(row)] = to;
      for (const heading of row.headings) open[keyOfHeading(row, heading)] = to;
    }
  }

  // Which entries an account is made of, by how the history is read.
  function source({ account, code }: Standing): Partial<EntriesQuery> {
    if (view.reading === 'as_posted') return { account, code };
    return { account, plan: view.reading === 'as_planned' ? (query.plan ?? null) : null };
  }

  function onkeydown(
    event: KeyboardEvent & { currentTarget: HTMLElement },
    at: string,
    mark: (() => void) | null,
  ) {
    if (step(event)) return;
    if (event.key === 'ArrowRight') open[at] = true;
    else if (event.key === 'ArrowLeft') open[at] = false;
    else if (event.key === ' ' && mark) mark();
    else return;
    event.preventDefault();
  }
</script>

{#snippet figures(row: Row, blank: boolean)}
  {#each columns as { until }, n (until)}
    {@const amount = figure(row.amounts[n], row.ratios[n])}
    <td class={['num', isZero(row.amounts[n] ?? '') && 'text-soft']}>{blank ? '' : amount}</td>
    {#if view.against}
      {@const other = figure(row.against[n], row.ratios_against[n])}
      <td class={['num other', other !== amount && 'differs']}>{blank ? '' : other}</td>
    {/if}
  {/each}
{/snippet}

{#snippet entries(of: Standing)}
  {@const { amounts, against, name } = of}
  {#each columns as { from, until }, n (until)}
    {@const amount = amounts[n] ?? ''}
    <td class="num text-soft text-[13px]"
      >{#if amount && !isZero(amount)}<a
          class="hover:underline"
          href={journal(books.id, { ...source(of), from: spans ? from : null, to: until })}
          title="The entries of {name} that make it up">{signed(amount)}</a
        >{/if}</td
    >
    {#if view.against}
      {@const other = against[n] ?? ''}
      <td class={['num other text-soft text-[13px]', other !== amount && 'differs']}
        >{other ? signed(other) : ''}</td
      >
    {/if}
  {/each}
{/snippet}

{#snippet accountRow(row: Row, account: Standing, indent: number)}
  {@const at = keyOf(row, account)}
  {@const label = `${account.code} ${account.name}`}
  {@const markIt = () => marks.toggleAccount(account.account)}
  <tr class={[account.takes_others && 'taking']}>
    <td style:padding-left="{indent}px" class="text-[13px]">
      <button
        data-stop
        class="cursor-pointer text-left"
        aria-expanded={open[at] ?? false}
        title="Its months"
        onclick={() => (open[at] = !open[at])}
        onkeydown={(event) => onkeydown(event, at, markIt)}
        ><span class="sign text-soft print:invisible" aria-hidden="true"
          >{open[at] ? '–' : '+'}</span
        ><span class="text-soft mr-2">{account.code}</span>{account.name}{#if account.note}<b
            class="text-warning ml-2 font-semibold">{account.note}</b
          >{/if}</button
      >
      <span class="actions print:hidden">
        {@render mark(label, marks.hasAccount(account.account), markIt)}
        <a
          class="to-card link text-xs"
          href={cardOf(books.id, account.account)}
          aria-label="Card of {label}">card</a
        >
      </span>
    </td>
    {@render entries(account)}
    {#if grew}<td></td><td></td>{/if}
  </tr>
  {#if open[at]}
    <Months
      of={account}
      {query}
      source={source(account)}
      indent={indent + 36}
      after={grew ? 2 : 0}
    />
  {/if}
{/snippet}

{#snippet accountRows(row: Row, all: Standing[], list: string, indent: number)}
  {@const shown = drawn.of(list, all)}
  {#each shown as account (keyOf(row, account))}
    {@render accountRow(row, account, indent)}
  {/each}
  <MoreRows
    left={all.length - shown.length}
    columns={columns.length * (view.against ? 2 : 1) + 1 + (grew ? 2 : 0)}
    more={() => drawn.more(list)}
  />
{/snippet}

{#snippet mark(label: string, isMarked: boolean, toggle: () => void)}
  <input
    type="checkbox"
    class="mark"
    tabindex="-1"
    aria-label="Mark {label}"
    title="Mark it, to merge it with another (Space)"
    checked={isMarked}
    onchange={toggle}
  />
{/snippet}

<table class={['ledger statement', view.against && 'two']}>
  <thead class="bg-base-100 sticky top-0 z-1">
    <tr class="hidden print:table-row">
      <th class="name" colspan={columns.length * (view.against ? 2 : 1) + 3}
        >{books.chart?.name}: {statement.name}<br /><span class="font-normal"
          >{books.chart?.currency}{query.in_thousands ? ' in thousands' : ''}, up to {longDate(
            columns[0]?.until ?? '',
          )}, printed by {by} on {instant(new Date().toISOString())}</span
        ></th
      >
    </tr>
    <tr>
      <th class="name">
        {#if items.length}
          <button class="link text-xs font-normal print:hidden" onclick={toggleAll}
            >{allOpen ? 'Close all items' : 'Open all items'}</button
          >
        {/if}
      </th>
      {#each columns as { months, until } (until)}
        <th class="num amount" colspan={view.against ? 2 : 1}
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
    {#if view.against}
      <tr class="readings">
        <th class="name"></th>
        {#each columns as { until } (until)}
          {#each readings as reading (reading)}
            <th class="num font-normal">{short(reading)}</th>
          {/each}
        {/each}
      </tr>
    {/if}
  </thead>
  <tbody>
    {#each statement.rows as row (key(row))}
      {@const isOpen = open[key(row)] ?? false}
      {@const { item, class: of } = row}
      {@const markItem =
        row.kind === 'item' && item && of
          ? () => marks.toggleItem({ item, of, label: row.label, amounts: row.amounts })
          : null}
      <tr class={[`of-${row.kind}`, !row.class && 'whole', row.moves && 'moves']}>
        <td style:padding-left="{row.level * 20}px">
          {#if canOpen(row)}
            <button
              data-stop
              class="cursor-pointer text-left"
              aria-expanded={isOpen}
              onclick={() => (open[key(row)] = !isOpen)}
              onkeydown={(event) => onkeydown(event, key(row), markItem)}
              ><span class="sign text-soft print:invisible" aria-hidden="true"
                >{isOpen ? '–' : '+'}</span
              >{row.label}<span class="text-soft ml-2 text-[11px] font-normal print:hidden"
                >{plural(row.accounts.length, 'account')}</span
              ></button
            >
          {:else}<span class="sign"></span>{row.label}{/if}
          {#if markItem}
            <span class="actions print:hidden">
              {@render mark(row.label, marks.hasItem(item ?? 0), markItem)}
            </span>
          {/if}
        </td>
        {@render figures(row, isTitle(row))}
        {#if grew}
          <td class="num text-soft font-normal!"
            >{isTitle(row) || row.kind === 'ratio' ? '' : signed(row.difference ?? '0')}</td
          >
          <td class="num text-soft font-normal!"
            >{isTitle(row) || typeof row.change !== 'number' ? '' : percent(row.change)}</td
          >
        {/if}
      </tr>
      {#if isOpen}
        {#each row.headings as heading (keyOfHeading(row, heading))}
          {@const at = keyOfHeading(row, heading)}
          {@const under = row.accounts.filter((account) => account.heading === heading.heading)}
          <tr>
            <td style:padding-left="{row.level * 20 + 20}px" class="text-[13px]">
              <button
                data-stop
                class="cursor-pointer text-left"
                aria-expanded={open[at] ?? false}
                onclick={() => (open[at] = !open[at])}
                onkeydown={(event) => onkeydown(event, at, null)}
                ><span class="sign text-soft print:invisible" aria-hidden="true"
                  >{open[at] ? '–' : '+'}</span
                >{heading.label}<span class="text-soft ml-2 text-[11px] print:hidden"
                  >{plural(under.length, 'account')}</span
                ></button
              >
            </td>
            {#each columns as { until }, n (until)}
              <td class="num text-[13px]">{signed(heading.amounts[n] ?? '0')}</td>
              {#if view.against}
                {@const other = heading.against[n] ?? '0'}
                <td class={['num other text-[13px]', other !== heading.amounts[n] && 'differs']}
                  >{signed(other)}</td
                >
              {/if}
            {/each}
            {#if grew}<td></td><td></td>{/if}
          </tr>
          {#if open[at]}
            {@render accountRows(row, under, at, row.level * 20 + 40)}
          {/if}
        {:else}
          {@render accountRows(row, row.accounts, key(row), row.level * 20 + 20)}
        {/each}
      {/if}
    {/each}
  </tbody>
</table>

{#if statement.left_over.length}
  <p class="text-soft mt-3 max-w-3xl text-[13px]">
    Each figure is rounded from the exact one, so what stands above a total does not always come to
    it:
    {#each statement.left_over as { label, column, by }, n (n)}{n ? ', ' : ''}{label}
      {#if columns[column]}of {longDate(columns[column].until)}{/if} by {signed(by)}{/each}.
  </p>
{/if}

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
  .two .name {
    min-width: 15rem;
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
  .of-subtotal td,
  .of-ratio td {
    font-style: italic;
  }
  .of-subtotal td {
    font-weight: 600;
  }
  .readings th {
    padding-top: 0;
  }
  .other {
    color: var(--color-soft);
  }
  .differs {
    background: var(--ochre-wash);
    color: var(--color-base-content);
  }
  /* What something moves from or to has its corner turned, as a staged row has. */
  .moves td:first-child::before {
    content: '';
    position: absolute;
    left: 0;
    top: 0;
    border-style: solid;
    border-width: 9px 9px 0 0;
    border-color: var(--color-warning) transparent transparent transparent;
  }
  /* Beside the name, and over the end of a long one. */
  .actions {
    position: absolute;
    top: 2px;
    right: 0;
    padding-left: 6px;
    background: inherit;
    opacity: 0;
  }
  tr:hover .actions,
  .actions:focus-within,
  .actions:has(:checked) {
    opacity: 1;
  }
  .mark {
    width: 13px;
    height: 13px;
    vertical-align: -2px;
    accent-color: var(--color-primary);
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
