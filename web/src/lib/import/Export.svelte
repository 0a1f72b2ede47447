<!-- Files to export: what the books hold, and empty forms to fill in. -->
<script lang="ts">
  import { KINDS } from './kinds';

  let { books, hasChart, hasProposed }: { books: number; hasChart: boolean; hasProposed: boolean } =
    $props();
  let withProposed = $state(true);
  /** The days of the journal that are wanted; empty for all. */
  let from = $state('');
  let to = $state('');
  const days = $derived.by(() => {
    const query = new URLSearchParams([
      ...(from ? [['from', from]] : []),
      ...(to ? [['to', to]] : []),
    ]);
    return query.size ? `?${query}` : '';
  });
  const FORMATS = ['xlsx', 'ods', 'csv'];
  const PARTS: [string, string][] = [
    ['trial-balance', 'Trial balance'],
    ['where-used', 'Where-used list'],
  ];
</script>

{#snippet row(title: string, address: (format: string) => string)}
  <tr>
    <th scope="row">{title}</th>
    {#each FORMATS as format (format)}
      <td>
        <a
          class="link"
          href={address(format)}
          aria-label="{title} as {format.toUpperCase()}"
          download>{format.toUpperCase()}</a
        >
      </td>
    {/each}
  </tr>
{/snippet}

<aside class="w-80 shrink-0">
  {#if hasChart}
    <h2 class="mb-1 text-lg">Export</h2>
    <p class="hint mb-2">Edit it in a spreadsheet and import it again: the edits are staged.</p>
    <table class="mb-8">
      <tbody>
        {@render row('Journal', (format) => `/api/books/${books}/exports/journal.${format}${days}`)}
        <tr>
          <td colspan="4" class="hint left">
            <label>
              from <input type="date" class="input input-xs w-28" bind:value={from} />
            </label>
            <label>to <input type="date" class="input input-xs w-28" bind:value={to} /></label>
          </td>
        </tr>
        {@render row(
          'Chart of accounts',
          (format) =>
            `/api/books/${books}/exports/chart.${format}${withProposed ? '' : '?proposed=false'}`,
        )}
        {#if hasProposed}
          <tr>
            <td colspan="4" class="hint left">
              <label class="flex items-center gap-1.5">
                <input type="checkbox" class="checkbox checkbox-xs" bind:checked={withProposed} />
                with the codes that are only proposed
              </label>
            </td>
          </tr>
        {/if}
        {#each PARTS as [part, title] (part)}
          {@render row(title, (format) => `/api/books/${books}/exports/${part}.${format}`)}
        {/each}
        <tr>
          <th scope="row" colspan="3">All of it, as an audit file (OECD SAF-T)</th>
          <td><a class="link" href="/api/books/{books}/exports/books.xml" download>XML</a></td>
        </tr>
      </tbody>
    </table>
  {/if}
  <h2 class="mb-1 text-lg">Empty forms</h2>
  <p class="hint mb-2">With rows as an example, and what goes into each column.</p>
  <table>
    <tbody>
      {#each KINDS as { key, form } (key)}
        {@render row(form, (format) => `/api/templates/${key}.${format}`)}
      {/each}
    </tbody>
  </table>
</aside>

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }
  th,
  td {
    border-bottom: 1px solid var(--rule);
    padding: 5px 0;
    font-weight: 400;
    text-align: left;
  }
  td {
    text-align: right;
    width: 3.2rem;
  }
  td.left {
    text-align: left;
  }
</style>
