<!-- Beside a statement: what it ties to, what the plan moves, and how it can be read. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { count, isZero, plural, signed } from '../figures';
  import { cardOf } from '../sheet/address';
  import { readings, short } from './query';

  let {
    view,
    statement,
    planned,
    file,
    read,
  }: {
    view: Schemas['StatementsView'];
    /** None beside the trial balance. */
    statement: Schemas['StatementView'] | undefined;
    planned: boolean;
    /** Where a file of the statement is, by its ending. */
    file: (ending: string) => string;
    read: (reading: Schemas['Reading']) => void;
  } = $props();

  // From which reading to which something moves.
  const between = $derived(`from ${short(view.moved_from)} to ${short(view.moved_to)}`);
  const books = getBooks();
  let opened = $state<number | null>(null);
  const out = $derived(view.ties.filter((tie) => !isZero(tie.difference)));
</script>

{#snippet amounts(list: string[])}
  {#each list as amount, at (at)}
    <span class={['block text-right', at && 'text-soft font-normal']}>{signed(amount)}</span>
  {/each}
{/snippet}

{#snippet length(when: string, { items, accounts, pages }: Schemas['LengthView'])}
  <div>
    <dt>{when}</dt>
    <dd class="text-right font-normal! whitespace-normal!">
      {plural(items, 'item')}, {plural(accounts, 'account')},
      <b class="font-semibold">{plural(pages, 'page')}</b>
    </dd>
  </div>
{/snippet}

<aside class="w-[306px] print:hidden shrink-0 overflow-auto px-6 py-5">
  <section>
    <h2>It ties</h2>
    <dl>
      <div>
        <dt>{plural(view.ties.length, 'total')} to the trial balance</dt>
        {#if out.length}<dd class="text-error">{count(out.length)} out</dd>
        {:else}<dd class="text-success">0.00</dd>{/if}
      </div>
      {#each out as tie (tie.name)}
        <div>
          <dt>{tie.name}</dt>
          <dd class="text-error">{signed(tie.difference)}</dd>
        </div>
      {/each}
      <div>
        <dt>accounts without an item</dt>
        <dd class={[view.without_item > 0 && 'text-warning']}>
          {count(view.without_item)} of {count(view.accounts)}
        </dd>
      </div>
      <div>
        <dt>earlier years changed <span class="hint block">{between}</span></dt>
        {#if view.earlier_changed}
          <dd class="text-warning">{plural(view.earlier_changed, 'item')}</dd>
        {:else}<dd class="text-success">none</dd>{/if}
      </div>
    </dl>
  </section>
  {#if view.moved.length || planned}
    <section>
      <h2>
        {view.moved_to === 'as_planned' && view.moved_from === 'as_it_is'
          ? 'What the plan moves'
          : 'What is under another item'}
      </h2>
      {#if view.moved.length === 0}
        <p class="hint">Nothing goes from one statement item to another, {between}.</p>
      {:else}
        <dl>
          {#each view.moved as moved, n (n)}
            <div>
              <dt>
                {moved.from} to {moved.to}
                <span class="hint block">
                  <button
                    class="link"
                    aria-expanded={opened === n}
                    onclick={() => (opened = opened === n ? null : n)}
                    >{plural(moved.accounts.length, 'account')}</button
                  >, {plural(moved.lines, 'line')}
                </span>
              </dt>
              <dd>{@render amounts(moved.amounts)}</dd>
            </div>
            {#if opened === n}
              {#each moved.accounts as { account, code, name, amounts: own } (`${account} ${code}`)}
                <div class="pl-3">
                  <dt><a class="link" href={cardOf(books.id, account)}>{code}</a> {name}</dt>
                  <dd>{@render amounts(own)}</dd>
                </div>
              {/each}
            {/if}
          {/each}
        </dl>
      {/if}
    </section>
  {/if}
  <section>
    <h2>Read it</h2>
    <dl>
      {#each readings(planned) as [key, words] (key)}
        <div>
          <dt>
            {#if key === view.reading}<b class="text-primary font-semibold">{words}</b>
            {:else}<button class="link" onclick={() => read(key)}>{words}</button>{/if}
          </dt>
          {#if key === 'as_posted' && view.former}
            <dd class="text-soft font-normal!">
              {plural(view.former, 'account')} under other codes
            </dd>
          {/if}
        </div>
      {/each}
    </dl>
  </section>
  {#if statement}
    <section>
      <h2>How long it is</h2>
      <dl>
        {@render length('today', statement.today)}
        {#if planned}{@render length('after', statement.after)}{/if}
      </dl>
    </section>
  {/if}
  <section>
    <h2>Export</h2>
    <p class="flex gap-3 text-[13px]">
      {#each [['xlsx', 'XLSX'], ['ods', 'ODS'], ['csv', 'CSV']] as const as [ending, words] (ending)}
        <a class="link font-semibold" href={file(ending)} download>{words}</a>
      {/each}
      <button class="link font-semibold" onclick={() => window.print()}>Print</button>
    </p>
    <p class="hint mt-1">In workbooks totals are formulas.</p>
  </section>
  {#if !statement}
    <section>
      <h2>Check it against another</h2>
      <p class="text-[13px]">
        <a class="link" href="/books/{books.id}/import">Import a trial balance</a>: what differs
        from the journal at the day that you choose stands first, account by account. Nothing is
        stored.
      </p>
    </section>
  {/if}
</aside>

<style>
  aside {
    background: color-mix(in srgb, var(--color-base-200) 45%, var(--color-base-100));
    border-left: 1px solid var(--rule-strong);
  }
  section + section {
    margin-top: 26px;
  }
  h2 {
    font-size: 17px;
    margin-bottom: 8px;
  }
  dl > div {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    padding-block: 5px;
    border-bottom: 1px solid var(--rule);
    font-size: 13px;
  }
  dd {
    font-weight: 600;
    white-space: nowrap;
    font-variant-numeric: tabular-nums;
  }
</style>
