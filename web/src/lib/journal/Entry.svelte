<!-- An entry with all its lines. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { isCredit, isZero, longDate, magnitude } from '../figures';
  import { journal } from './address';

  let { entry, account }: { entry: Schemas['JournalEntry']; account: number | null } = $props();
  const books = getBooks();
  const side = (amount: string, credit: boolean) =>
    isZero(amount) || isCredit(amount) !== credit ? '' : magnitude(amount);
</script>

<tbody>
  <tr class="head">
    <td class="whitespace-nowrap">{longDate(entry.date)}</td>
    <td colspan="2"
      ><b class="font-semibold">{entry.number}</b>{#if entry.kind && entry.kind !== 'ordinary'}<span
          class="badge badge-ghost badge-xs ml-2">{entry.kind}</span
        >{/if}</td
    >
    <td colspan="3" class="hint text-right">
      <a
        class="hover:underline"
        href={journal(books.id, { import: entry.import })}
        title="All that came with this file">{entry.source}</a
      >
    </td>
  </tr>
  {#each entry.lines as line (line.id)}
    {@const row = books.byId.get(line.account)}
    <tr class={[line.account === account && 'mine']}>
      <td></td>
      <td>
        <a
          class="hover:underline"
          href={journal(books.id, { account: line.account })}
          title="Entries of this account"
          ><span class="text-soft mr-2">{row?.code ?? line.posted_code}</span>{row?.name ?? ''}</a
        >{#if row && row.code !== line.posted_code}<span class="hint ml-2"
            >posted under {line.posted_code}</span
          >{/if}
      </td>
      <td>
        {line.payee}{line.payee && line.memo ? ' · ' : ''}<span class="text-soft">{line.memo}</span>
        {#if line.dimensions}<span class="hint block">{line.dimensions}</span>{/if}
      </td>
      <td class="text-soft whitespace-nowrap">{line.reference}</td>
      <td class="num">{side(line.amount, false)}</td>
      <td class="num"
        >{side(line.amount, true)}{#if line.foreign}<span class="hint block">{line.foreign}</span
          >{/if}</td
      >
    </tr>
  {/each}
</tbody>

<style>
  td {
    padding-block: 2px;
    vertical-align: baseline;
  }
  .head td {
    padding-top: 12px;
  }
  tr:not(.head) td {
    border-bottom: 1px solid var(--rule);
  }
  .mine td {
    background: var(--color-plum-wash);
  }
</style>
