<!-- Left of the crease: a row as it stands today. -->
<script lang="ts">
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import { count, shortDate } from '../figures';
  import Balance from '../journal/Balance.svelte';
  import Figure from '../journal/Figure.svelte';
  import Money from '../ui/Money.svelte';
  import Strip from './Strip.svelte';
  import { getSheet } from './sheet.svelte';
  import type { SheetRow } from './rows';

  let { row }: { row: SheetRow } = $props();
  const sheet = getSheet();
  const isHeading = $derived(row.kind === 'heading');
  const isSum = $derived(row.kind === 'sum');
  const closed = $derived(sheet.closed.has(row.id));
  const latest = $derived(sheet.books.chart?.year_end);
  const chart = $derived(sheet.books.chart);
  const period = (wanted: number | undefined) =>
    chart?.periods.find(({ period }) => period === wanted);
  const marks: Record<string, string> = { deactivated: 'off', archived: 'archived' };
</script>

<div class="mark" role="gridcell">
  {#if isHeading}
    <button
      tabindex="-1"
      class="text-soft cursor-pointer"
      aria-label={closed ? 'Open' : 'Close'}
      onclick={() => sheet.toggle(row.id)}
    >
      <ChevronRight size={14} class={closed ? '' : 'rotate-90'} />
    </button>
  {/if}
</div>
{#if row.added}
  <div class="hint col-[2/-1] italic" role="gridcell">not in today’s chart</div>
{:else}
  <div
    class={['font-medium', row.code_proposed ? 'text-warning italic' : 'text-soft']}
    title={row.code_proposed ? 'a proposed code, not confirmed yet' : undefined}
    role="gridcell"
  >
    {row.code}
  </div>
  <div class={['name depth', isHeading && 'font-semibold', isSum && 'text-soft']} role="gridcell">
    <span style:padding-left="{row.depth * 14}px">{row.name}</span>
    {#if marks[row.status]}<span class="badge badge-ghost badge-xs ml-1.5">{marks[row.status]}</span
      >{/if}
    {#if row.role}<span class="text-primary ml-1.5 text-[11px]" title="Control account: {row.role}"
        >● {row.role}</span
      >{/if}
  </div>
  <div class="text-soft" role="gridcell">{isHeading ? '' : row.class}</div>
  <div class="num text-soft" role="gridcell">
    {isHeading && row.lines === 0 ? '' : count(row.lines)}
  </div>
  <div class="num text-soft" role="gridcell">
    {row.last ? shortDate(row.last, latest) : row.kind === 'account' ? 'never' : ''}
  </div>
  <div class="justify-self-end" role="gridcell"><Strip strip={row.strip} /></div>
  <div class={['num', isSum && 'sum']} role="gridcell">
    {#if isSum}<Money amount={row.balance} />
    {:else if !isHeading || row.lines > 0}
      <Balance amount={row.balance} account={row.id} reach={false} />{/if}
  </div>
  <div class={['num', isSum && 'sum']} role="gridcell">
    {#if isSum}<Money amount={row.net_change} />
    {:else if !isHeading || row.lines > 0}
      <Figure
        amount={row.net_change}
        account={row.id}
        of={row.name}
        from={period(chart?.from)?.first}
        to={period(chart?.to)?.last}
        reach={false}
      />{/if}
  </div>
{/if}

<style>
  .mark {
    justify-self: center;
  }
  .name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    padding-right: 8px;
  }
  .sum {
    border-top: 1px solid currentColor;
    font-weight: 650;
    line-height: 20px;
  }
</style>
