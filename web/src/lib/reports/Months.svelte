<!-- The months of an account, below it on a statement: each leads to its entries. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { answer, api, sentence, type Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { isZero, monthOf, signed } from '../figures';
  import type { EntriesQuery } from '../journal/address';
  import EntriesOf from '../journal/EntriesOf.svelte';
  import type { Query } from './query';
  import { step } from './keys';
  import { inRows } from './months';

  let {
    of,
    query,
    source,
    indent,
    after,
  }: {
    of: Schemas['StandingView'];
    query: Query;
    /** Which entries it is made of. */
    source: Partial<EntriesQuery>;
    indent: number;
    /** How many cells stand behind the columns. */
    after: number;
  } = $props();

  const books = getBooks();
  const months = createQuery(() => ({
    queryKey: ['months', books.id, of.account, query, books.plan?.revision],
    queryFn: ({ signal }: { signal: AbortSignal }) => {
      const params = { path: { books: books.id, account: of.account }, query };
      const path = '/api/books/{books}/reports/accounts/{account}/months';
      return answer(api.GET(path, { params, signal }));
    },
  }));
  const own = $derived(
    months.data?.find(({ code, name }) => code === of.code && name === of.name) ?? null,
  );
  let opened = $state.raw<Schemas['MonthView'] | null>(null);
  const wide = $derived((query.against ? 2 : 1) * (own?.columns.length ?? 1) + after + 1);
</script>

{#if months.error}
  <tr><td class="text-error" colspan={wide}>{sentence(months.error)}</td></tr>
{:else if own}
  {#each inRows(own.columns) as row, at (at)}
    {@const named = row.find((month) => month)}
    {@const first = row.findIndex((month) => month && !isZero(month.amount))}
    <tr>
      <td class="text-soft text-xs" style:padding-left="{indent}px"
        >{named ? monthOf(named.until) : ''}</td
      >
      {#each row as month, n (n)}
        <td class="num text-soft text-xs">
          {#if month && !isZero(month.amount)}<button
              class="cursor-pointer hover:underline"
              data-stop={n === first ? '' : undefined}
              aria-expanded={opened === month}
              title="The entries of {of.name} in {monthOf(month.until)}"
              onclick={() => (opened = opened === month ? null : month)}
              onkeydown={step}>{signed(month.amount)}</button
            >{/if}
        </td>
        {#if query.against}<td></td>{/if}
      {/each}
      {#if after}<td colspan={after}></td>{/if}
    </tr>
    {#if opened && row.includes(opened)}
      <tr>
        <td colspan={wide} style:padding-left="{indent}px">
          <EntriesOf
            title="{of.code} {of.name}, {monthOf(opened.until)} {opened.until.slice(0, 4)}"
            asked={{ ...source, from: opened.from, to: opened.until }}
          />
        </td>
      </tr>
    {/if}
  {/each}
{/if}
