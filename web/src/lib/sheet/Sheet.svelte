<!-- The two-sided sheet: Today left of the crease, After right of it, rows running through. -->
<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { get } from 'svelte/store';
  import { plural } from '../figures';
  import { after } from './rows';
  import AfterCells from './AfterCells.svelte';
  import { getSheetCommands } from './commands.svelte';
  import { getSheet } from './sheet.svelte';
  import TodayCells from './TodayCells.svelte';
  import WayOut from './WayOut.svelte';

  const ROW = 27;
  /** The columns of each side, with how their names are set; those without are for readers of screens. */
  const TODAY: [string, string | null][] = [
    ['Open or close', null],
    ['Code', ''],
    ['Name', ''],
    ['Class', ''],
    ['Lines', 'num'],
    ['Last', 'num'],
    ['six years', 'num'],
    ['Balance', 'num pr-4'],
    ['Net change', 'num pr-4'],
  ];
  const AFTER = [
    ['Code', 'px-1.5'],
    ['Name', 'px-1.5'],
    ['What happens', 'num pr-4.5'],
  ] as const;
  const sheet = getSheet();
  const commands = getSheetCommands();
  const ruler = document.createElement('canvas').getContext('2d');
  /** How wide a code is drawn, in pixels. */
  function widthOf(code: string): number {
    if (!ruler) return code.length * 8;
    ruler.font = '600 13.5px "Source Sans 3 Variable", sans-serif';
    return Math.ceil(ruler.measureText(code).width);
  }
  let scroller = $state<HTMLDivElement | null>(null);
  let grid = $state<HTMLDivElement | null>(null);
  const virtualizer = createVirtualizer<HTMLDivElement, HTMLDivElement>({
    count: 0,
    getScrollElement: () => scroller,
    estimateSize: () => ROW,
    overscan: 8,
  });

  // The virtualiser lives outside of Svelte's state and is told of every change of the rows.
  $effect(() => {
    const [count, element] = [sheet.rows.length, scroller];
    const list = get(virtualizer);
    list.setOptions({ count, getScrollElement: () => element });
    list.measure();
  });
  // Rows may have gone by a filter or a closed heading.
  $effect(() => {
    if (sheet.cursor.row > Math.max(sheet.rows.length - 1, 0)) sheet.go(sheet.rows.length - 1);
  });
  // The cursor is always in sight.
  $effect(() => {
    get(virtualizer).scrollToIndex(sheet.cursor.row, { align: 'auto' });
  });
  // A cell that was edited leaves the keys to the sheet, wherever they were before.
  let edited = false;
  $effect(() => {
    if (edited && sheet.editing === null && sheet.asked === null) {
      grid?.focus({ preventScroll: true });
    }
    edited = sheet.editing !== null;
  });
  // Keys go to the sheet unless a dialog, the card or a cell is being worked in.
  $effect(() => {
    if (sheet.editing === null && (sheet.asked === null || sheet.asked === 'card')) {
      if (!document.activeElement?.closest('[data-keeps-focus]')) {
        grid?.focus({ preventScroll: true });
      }
    }
  });

  // What is typed is seen.
  $effect(() => {
    if (sheet.editing !== null) sheet.side = 'after';
  });

  const items = $derived($virtualizer.getVirtualItems());
  const findings = $derived(
    sheet.current ? (sheet.books.findings.get(sheet.current.id) ?? []) : [],
  );
  const top = $derived(sheet.cursor.row * ROW);
  const above = $derived(top - (scroller?.scrollTop ?? 0) > (scroller?.clientHeight ?? 0) / 2);

  /** The columns of codes are as wide as the longest code asks for. */
  const widths = $derived.by(() => {
    const longest = (codes: string[]) => Math.max(...codes.map(widthOf), 0) + 14;
    const staged = [...sheet.books.staged.values()].map((target) => target.get('code') ?? '');
    const today = longest(sheet.all.map(({ code }) => code));
    return { today: Math.max(52, today), after: Math.max(72, today, longest(staged)) };
  });

  function paste(event: ClipboardEvent) {
    const text = event.clipboardData?.getData('text/plain');
    if (text) void sheet.paste(text);
    event.preventDefault();
  }

  function copy(event: ClipboardEvent) {
    const side = (n: number) => after(sheet.rows[n]!, sheet.books);
    const lines = sheet.selected.map((row, n) => {
      const { code, name } = side(sheet.range[0] + n);
      return `${code || row.code}\t${name || row.name}`;
    });
    event.clipboardData?.setData('text/plain', lines.join('\n'));
    event.preventDefault();
  }
</script>

<div
  id="sheet-head"
  class="head row-grid"
  role="row"
  aria-rowindex="1"
  style:--code="{widths.today}px"
  style:--new-code="{widths.after}px"
>
  <div class="today" role="presentation">
    {#each TODAY as [name, seen] (name)}
      <span role="columnheader" class={seen}
        ><span class={[seen === null && 'sr-only']}>{name}</span></span
      >
    {/each}
  </div>
  <div class="after" role="presentation">
    <span></span>
    {#each AFTER as [name, seen] (name)}
      <span role="columnheader" class={seen}>{name}<span class="sr-only"> After</span></span>
    {/each}
  </div>
</div>
<div
  bind:this={scroller}
  class="scroller"
  style:--code="{widths.today}px"
  style:--new-code="{widths.after}px"
>
  <div class="rows" style:height="{$virtualizer.getTotalSize()}px">
    <div
      bind:this={grid}
      class="grid-of-rows"
      role="grid"
      tabindex="0"
      aria-label="Chart of accounts, today and after"
      aria-owns="sheet-head"
      aria-rowcount={sheet.rows.length + 1}
      aria-multiselectable="true"
      aria-activedescendant={sheet.current ? `cell-${sheet.current.id}-${sheet.column}` : undefined}
      onkeydown={(event) => commands.key(event)}
      onpaste={paste}
      oncopy={copy}
    >
      {#each items as item (item.key)}
        {@const row = sheet.rows[item.index]}
        {#if row}
          {@const state = after(row, sheet.books).state}
          <div
            class={['row row-grid', state, sheet.isSelected(item.index) && 'selected']}
            role="row"
            tabindex="-1"
            aria-rowindex={item.index + 2}
            data-code={row.code}
            style:transform="translateY({item.start}px)"
            onmousedown={(event) => {
              if (!(event.target instanceof Element) || event.target.closest('button, input'))
                return;
              // Whatever had the focus, keys are those of the sheet now.
              grid?.focus({ preventScroll: true });
              event.preventDefault();
              if (!event.target.closest('.cell')) sheet.go(item.index, undefined, event.shiftKey);
            }}
            ondblclick={(event) =>
              event.target instanceof Element &&
              !event.target.closest('.cell, button') &&
              (sheet.asked = 'card')}
          >
            <div class="today" role="presentation"><TodayCells {row} /></div>
            <div class={['after', state !== 'quiet' && 'folded', state]} role="presentation">
              <AfterCells {row} at={item.index} />
            </div>
          </div>
        {/if}
      {/each}
    </div>
    <!-- Beside the grid, whose keys are not those of its buttons. -->
    {#if findings.length > 0 && sheet.editing === null}
      <WayOut {findings} top={above ? top - 4 : top + ROW + 4} {above} />
    {/if}
  </div>
  {#if sheet.rows.length === 0}
    <p class="text-soft p-10 text-center">
      {#if sheet.beyond}{plural(sheet.beyond, 'row')} with that code or name
        {sheet.beyond === 1 ? 'is' : 'are'} left out by the filters.{:else}Nothing has that code or
        name, now or before.{/if}
      <button class="link" onclick={() => (sheet.beyond ? sheet.unfilter() : sheet.showAll())}
        >{sheet.beyond ? 'Show them' : 'Show all rows'}</button
      >
    </p>
  {/if}
</div>

<style>
  .row-grid {
    display: grid;
    grid-template-columns: var(--today) minmax(0, 1fr);
  }
  .today,
  .after {
    display: grid;
    align-items: center;
    height: 26px;
  }
  .today {
    grid-template-columns: 26px var(--code) minmax(0, 1fr) 52px 48px 62px 80px 108px 104px;
    padding-right: 6px;
  }
  /* Narrower windows keep what tells rows apart and what a plan does to them. */
  @media (max-width: 1180px) {
    .today {
      grid-template-columns: 26px var(--code) minmax(0, 1fr) 44px 62px 104px 96px;
    }
    .today > :global(:nth-child(4)),
    .today > :global(:nth-child(7)) {
      display: none;
    }
  }
  @media (max-width: 900px) {
    .today {
      grid-template-columns: 22px var(--code) minmax(0, 1fr) 92px;
    }
    .today > :global(:nth-child(5)),
    .today > :global(:nth-child(6)),
    .today > :global(:nth-child(9)) {
      display: none;
    }
  }
  .after {
    grid-template-columns: 24px var(--new-code) minmax(0, 1fr) 176px;
    position: relative;
    background: var(--color-base-200);
  }
  @media (max-width: 900px) {
    .after {
      grid-template-columns: 14px var(--new-code) minmax(0, 1fr) 104px;
    }
  }
  @media (max-width: 700px) {
    .after {
      grid-template-columns: 14px var(--new-code) minmax(0, 1fr) 176px;
    }
  }
  .after.staged {
    background: var(--ochre-wash);
  }
  .after.stopped {
    background: var(--brick-wash);
  }
  .after::before {
    /* The crease: the fold casts a soft shadow on the After side. */
    content: '';
    position: absolute;
    inset: 0 auto -1px 0;
    width: 24px;
    background: var(--fold);
    border-left: 1px solid var(--rule-strong);
    pointer-events: none;
  }
  .head,
  .scroller {
    /* The After side goes on below the last row and under the scroll bar. */
    background: linear-gradient(
      to right,
      transparent var(--today),
      var(--color-base-200) var(--today)
    );
  }
  .head {
    color: var(--color-soft);
    font-size: 11.5px;
    border-bottom: 1px solid var(--rule-strong);
    scrollbar-gutter: stable;
    scrollbar-width: thin;
    overflow: hidden;
  }
  .scroller {
    flex: 1;
    min-height: 0;
    overflow-x: hidden;
    overflow-y: auto;
    scrollbar-gutter: stable;
    scrollbar-width: thin;
    scrollbar-color: var(--rule-strong) transparent;
  }
  .rows {
    position: relative;
  }
  .grid-of-rows {
    height: 100%;
    outline: none;
  }
  .row {
    position: absolute;
    left: 0;
    right: 0;
    top: 0;
    height: 27px;
    border-bottom: 1px solid var(--rule);
  }
  .row.selected {
    background: var(--color-secondary);
  }
  .row.selected .after {
    background: color-mix(in srgb, var(--color-secondary) 80%, var(--color-accent) 8%);
  }
</style>
