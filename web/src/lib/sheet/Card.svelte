<!-- The card of an account: years side by side, former codes, where used, lines, and the plan. -->
<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, answer } from '../api/client';
  import { count, instant, longDate, plural, shortDate } from '../figures';
  import { journal } from '../journal/address';
  import Figure from '../journal/Figure.svelte';
  import Money from '../ui/Money.svelte';
  import { after, type SheetRow } from './rows';
  import { getSheet } from './sheet.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { row }: { row: SheetRow } = $props();
  const sheet = getSheet();
  let page = $state(0);
  const following = new Attempt();
  const PAGE = 50;
  const path = $derived({ books: sheet.books.id, account: row.id });

  // Follows the cursor from row to row; until the next card is there, the one before stays.
  const asked = createQuery(() => ({
    queryKey: ['card', path],
    queryFn: ({ signal }) =>
      answer(api.GET('/api/books/{books}/accounts/{account}', { params: { path }, signal })),
    placeholderData: keepPreviousData,
  }));
  const card = $derived(asked.data);
  const askedLines = createQuery(() => ({
    queryKey: ['lines', path, page],
    queryFn: ({ signal }) => {
      const params = { path, query: { page } };
      return answer(api.GET('/api/books/{books}/accounts/{account}/lines', { params, signal }));
    },
    placeholderData: keepPreviousData,
  }));
  const lines = $derived(askedLines.data ?? []);
  const failed = $derived(asked.error ?? askedLines.error);
  $effect(() => {
    void path;
    page = 0;
  });

  const ofYear = $derived(row.class === 'income' || row.class === 'expense');
  const follows = $derived(sheet.books.chart?.followed.includes(row.id) ?? false);

  async function follow() {
    await following.run(() => sheet.books.follow(row.id, !follows));
  }

  const side = $derived(after(row, sheet.books));
  const findings = $derived(sheet.books.findings.get(row.id) ?? []);
  const origin = $derived.by(() => {
    const file = sheet.books.chart?.origins.find(({ id }) => id === row.origin);
    return file ? `came with ${file.file_name}` : 'added by hand';
  });
  const from = (at: string | null | undefined) => (at ? instant(at) : 'the beginning');
</script>

<aside class="card" aria-label="Account card" data-keeps-focus>
  <div class="mb-2 flex items-start gap-2">
    <div class="grow">
      <h2 class="text-xl">{row.code} {row.name}</h2>
      <p class="hint mt-1">
        {card?.class ?? row.class}
        {card?.heading ? ` · under ${card.heading}` : ''}
        {row.status !== 'active' ? ` · ${row.status}` : ''}
        {row.status_from ? ` from ${longDate(row.status_from)}` : ''}
        {row.added ? '' : ` · ${origin}`}
      </p>
      {#if card?.settings.length}
        <dl class="settings hint">
          {#each card.settings as { field, title, value } (field)}
            <dt>{title}</dt>
            <dd>{value}</dd>
          {/each}
        </dl>
      {/if}
      {#if card && row.kind === 'account'}
        <p class="hint">
          {#if card.caption}
            Stands under “{card.caption}” of the
            <a
              class="link"
              href="/books/{sheet.books.id}/reports{ofYear ? '' : '?statement=balance_sheet'}"
              >{ofYear ? 'income statement' : 'balance sheet'}</a
            >.
          {:else}<b class="text-warning font-semibold">Stands under no statement item.</b>{/if}
        </p>
      {/if}
    </div>
    <button class="btn btn-sm btn-ghost" aria-label="Close" onclick={() => (sheet.asked = null)}>
      <X size={16} />
    </button>
  </div>
  <Problem of={following} asked={failed} />
  {#if row.kind === 'account' && !row.added}
    <div class="mb-3 flex flex-wrap gap-2">
      <button class="btn btn-xs btn-quiet" onclick={() => sheet.do('merge')}>Merge…</button>
      {#if row.lines}
        <button class="btn btn-xs btn-quiet" onclick={() => sheet.do('history')}
          >Move history…</button
        >
      {/if}
      <button class="btn btn-xs btn-quiet" aria-pressed={follows} onclick={follow}
        >{follows ? 'Follow no longer' : 'Follow'}</button
      >
      {#if row.status !== 'active'}
        <button class="btn btn-xs btn-quiet" onclick={() => sheet.do('restore')}>Restore</button>
      {/if}
    </div>
  {/if}
  {#if side.state !== 'quiet'}
    <div
      class={[
        'mb-3 rounded px-3 py-2',
        side.state === 'stopped' ? 'bg-brick-wash' : 'bg-ochre-wash',
      ]}
    >
      <b>In the plan:</b>
      {side.code}
      {side.name}
      {side.what ? `· ${side.what}` : ''}
      {#each findings as finding (finding.key)}<p class="mt-1">{finding.sentence}</p>{/each}
    </div>
  {/if}
  {#if card}
    <h3 class="mb-1 text-base">Years</h3>
    <table class="ledger mb-3">
      <thead>
        <tr>
          <th>Year to</th><th class="num amount">Debit</th><th class="num amount">Credit</th><th
            class="num amount">Net</th
          >
          <th class="num">Lines</th>
        </tr>
      </thead>
      <tbody>
        {#each card.years as year (year.end)}
          <tr>
            <td>{longDate(year.end)}</td>
            <td class="num"><Money amount={year.debit} /></td>
            <td class="num"><Money amount={year.credit} /></td>
            <td class="num">
              <Figure
                amount={year.net}
                account={row.id}
                of={row.name}
                from={year.start}
                to={year.end}
              />
            </td>
            <td class="num text-soft">{count(year.lines)}</td>
          </tr>
        {:else}
          <tr><td colspan="5" class="text-soft">Nothing was ever posted here.</td></tr>
        {/each}
      </tbody>
    </table>
    {#if card.former.length}
      <h3 class="mb-1 text-base">Former codes</h3>
      <ul class="mb-3">
        {#each card.former as former, n (n)}
          <li>
            <b class="font-semibold">{former.code}</b>
            {former.name} <span class="hint">from {from(former.from)} to {from(former.to)}</span>
          </li>
        {/each}
      </ul>
    {/if}
    {#if card.uses.length}
      <h3 class="mb-1 text-base">Where used</h3>
      <p class="text-soft mb-3">{card.uses.join(' · ')}</p>
    {/if}
    <div class="flex items-baseline gap-3">
      <h3 class="mb-1 grow text-base">{plural(card.lines, 'line')}</h3>
      {#if card.lines}
        <a
          class="link text-xs"
          href="/api/books/{sheet.books.id}/exports/journal.xlsx?account={card.id}"
          download>Save them as XLSX</a
        >
      {/if}
    </div>
    <table class="ledger">
      <tbody>
        {#each lines as line (line.id)}
          <tr>
            <td class="text-soft w-20 whitespace-nowrap"
              >{shortDate(line.date, sheet.books.chart?.year_end)}</td
            >
            <td>
              {line.payee || line.memo}
              <span class="hint block">
                <a
                  class="link"
                  href={journal(sheet.books.id, {
                    text: line.entry,
                    from: line.date,
                    to: line.date,
                  })}
                  title="The entry with all its lines">{line.entry}</a
                >
                {[line.payee && line.memo, line.foreign, line.dimensions]
                  .filter(Boolean)
                  .join(' · ')}
                {#if line.posted_code !== row.code}<b>· posted under {line.posted_code}</b>{/if}
              </span>
            </td>
            <td class="num"><Money amount={line.amount} /></td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if card.lines > PAGE}
      <div class="mt-2 flex items-center gap-2">
        <button class="btn btn-sm btn-quiet" disabled={page === 0} onclick={() => (page -= 1)}
          >Later</button
        >
        <button
          class="btn btn-sm btn-quiet"
          disabled={(page + 1) * PAGE >= card.lines}
          onclick={() => (page += 1)}>Earlier</button
        >
        <span class="hint">page {page + 1} of {Math.ceil(card.lines / PAGE)}</span>
      </div>
    {/if}
  {:else if !row.added}
    <p class="text-soft">Reading…</p>
  {/if}
</aside>

<style>
  .settings {
    display: grid;
    grid-template-columns: max-content 1fr;
    gap: 0 10px;
  }
  .settings dd {
    color: var(--color-base-content);
  }
  .card {
    position: absolute;
    top: 0;
    bottom: 0;
    right: 0;
    width: min(500px, 90%);
    overflow-y: auto;
    padding: 16px 18px;
    background: var(--color-base-100);
    border-left: 1px solid var(--rule-strong);
    box-shadow: -8px 0 24px var(--shadow);
    border-radius: 0 10px 0 0;
    z-index: 6;
  }
</style>
