<!-- The months of an account, below it on a statement: each leads to its entries. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { answer, api, sentence, type Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { isZero, monthOf, signed } from '../figures';
  import { journal } from '../journal/address';
  import type { Query } from './asked';
  import { inRows } from './months';

  let {
    of,
    query,
    spans,
    indent,
    after,
  }: {
    of: Schemas['StandingView'];
    query: Query;
    /** Whether a month holds what was posted in it, or what stands at its end. */
    spans: boolean;
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
  const wide = $derived((query.against ? 2 : 1) * (own?.columns.length ?? 1) + after + 1);
</script>

{#if months.error}
  <tr><td class="text-error" colspan={wide}>{sentence(months.error)}</td></tr>
{:else if own}
  {#each inRows(own.columns) as row, at (at)}
    {@const named = row.find((month) => month)}
    <tr>
      <td class="text-soft text-xs" style:padding-left="{indent}px"
        >{named ? monthOf(named.until) : ''}</td
      >
      {#each row as month, n (n)}
        <td class="num text-soft text-xs">
          {#if month && !isZero(month.amount)}<a
              class="hover:underline"
              href={journal(books.id, {
                account: of.account,
                from: spans ? month.from : null,
                to: month.until,
              })}
              title="The entries of {of.name} up to {month.until} that make it up"
              >{signed(month.amount)}</a
            >{/if}
        </td>
        {#if query.against}<td></td>{/if}
      {/each}
      {#if after}<td colspan={after}></td>{/if}
    </tr>
  {/each}
{/if}
