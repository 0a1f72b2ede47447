<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { createQuery } from '@tanstack/svelte-query';
  import { sentence } from '$lib/api/client';
  import { session } from '$lib/api/session';
  import { BooksState, setBooks } from '$lib/books.svelte';
  import { getCommands } from '$lib/commands/commands.svelte';
  import { count } from '$lib/figures';
  import { PlanCommands, setPlanCommands } from '$lib/plan/commands.svelte';
  import PlanDialogs from '$lib/plan/PlanDialogs.svelte';
  import ConflictDialog from '$lib/plan/ConflictDialog.svelte';
  import { SheetCommands, setSheetCommands } from '$lib/sheet/commands.svelte';
  import { SheetState, setSheet } from '$lib/sheet/sheet.svelte';
  import Account from '$lib/people/Account.svelte';
  import AsOf from '$lib/ui/AsOf.svelte';
  import AsOfDialog from '$lib/ui/AsOfDialog.svelte';
  import Find from '$lib/sheet/Find.svelte';

  let { children } = $props();
  const books = setBooks(new BooksState(Number(page.params.books)));
  const sheet = setSheet(new SheetState(books));
  const onSheet = setSheetCommands(new SheetCommands(sheet));
  const me = createQuery(session);
  let problem = $state('');
  let choosing = $state(false);

  const failed = (error: unknown) => (problem = sentence(error));
  books.day = page.url.searchParams.get('day');
  books.load().catch(failed);
  $effect(() => {
    const day = page.url.searchParams.get('day');
    books.showDay(day).catch(failed);
  });

  /** The place that a page without one of its own belongs to. */
  const PARTS: Record<string, string> = {
    proof: 'plan',
    move: 'chart',
    merge: 'review',
    renumber: 'plan',
    items: 'reports',
  };
  const here = $derived(page.url.pathname.split('/')[3]);
  const changes = $derived(books.changes);
  const places = $derived([
    { key: 'import', title: 'Import', count: 0 },
    { key: 'chart', title: 'Chart', count: 0 },
    { key: 'review', title: 'Review', count: 0 },
    { key: 'plan', title: 'Plan', count: changes },
    { key: 'reports', title: 'Reports', count: 0 },
    { key: 'journal', title: 'Journal', count: 0 },
    { key: 'trail', title: 'Trail', count: 0 },
    { key: 'settings', title: 'Settings', count: 0 },
  ]);

  /** More than that would push the head out of a narrow window. */
  const MANY = 99;

  const commands = getCommands();
  const go = (place: string) => () => goto(`/books/${books.id}/${place}`);
  commands.offer({
    title: 'Go to',
    rank: 2,
    get commands() {
      const items = { name: 'Statement items', words: 'lines subtotals', run: go('items') };
      const renumber = { name: 'Renumber', words: 'codes scheme blocks', run: go('renumber') };
      return [...places.map(({ key, title }) => ({ name: title, run: go(key) })), items, renumber];
    },
  });
  commands.offer({
    title: 'Books',
    rank: 3,
    commands: [
      { name: 'Choose the as-of date…', words: 'day month', run: () => (choosing = true) },
    ],
  });
  const plans = new PlanCommands(books);
  setPlanCommands(plans);
  commands.offer(plans.group);
  commands.offer(onSheet.ofSheet);
  commands.offer(onSheet.ofRows);
</script>

<svelte:head><title>{books.chart?.name ?? 'Books'} · Zero Fold</title></svelte:head>
<div class="flex h-full flex-col px-4.5 pb-3">
  <header class="flex h-[50px] shrink-0 items-center gap-5 max-md:gap-2">
    <p class="shrink-0 truncate max-md:min-w-0 max-md:shrink">
      <b class="font-serif text-lg font-semibold">{books.chart?.name ?? ''}</b>
      {#if books.chart}
        <span class="hint ml-1.5 hidden xl:inline">
          <AsOf choose={() => (choosing = true)} />
          {books.chart.currency}
        </span>
      {/if}
    </p>
    <nav class="places flex gap-0.5" aria-label="Places">
      {#each places as place (place.key)}
        {@const on = here === place.key || PARTS[here ?? ''] === place.key}
        <a
          href="/books/{books.id}/{place.key}"
          aria-current={on ? 'page' : undefined}
          class={[
            'rounded px-3 py-2 max-xl:px-2 max-md:px-1.5',
            on ? 'on text-primary font-semibold' : 'text-soft',
          ]}
        >
          {place.title}{#if place.count}<b
              class="text-warning ml-1 text-[11.5px]"
              title={count(place.count)}>{place.count > MANY ? `${MANY}+` : place.count}</b
            >{/if}
        </a>
      {/each}
    </nav>
    <div class="ml-auto flex min-w-0 items-center gap-3">
      <Find />
      <button
        class="btn btn-sm btn-quiet shrink-0 max-lg:hidden"
        title="All that can be done here, found by its name"
        onclick={() => (commands.open = true)}>Do… <kbd class="kbd kbd-xs">?</kbd></button
      >
      {#if me.data}<Account me={me.data} />{/if}
    </div>
  </header>
  {#if problem}
    <p class="paper text-error p-6" role="alert">
      {problem} <a class="link" href="/">All books</a>
    </p>
  {:else if books.chart}
    {@render children()}
  {:else}
    <p class="paper text-soft grow p-10 text-center">Reading the books…</p>
  {/if}
</div>
{#if books.conflicts.length}<ConflictDialog />{/if}
<PlanDialogs />
{#if choosing}<AsOfDialog close={() => (choosing = false)} />{/if}
