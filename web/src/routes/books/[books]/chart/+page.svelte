<script lang="ts">
  import { page } from '$app/state';
  import { untrack } from 'svelte';
  import { getBooks } from '$lib/books.svelte';
  import StatusBar from '$lib/plan/StatusBar.svelte';
  import SheetDialogs from '$lib/sheet/SheetDialogs.svelte';
  import SheetToolbar from '$lib/sheet/SheetToolbar.svelte';
  import Card from '$lib/sheet/Card.svelte';
  import Followed from '$lib/sheet/Followed.svelte';
  import Sheet from '$lib/sheet/Sheet.svelte';
  import { getSheet } from '$lib/sheet/sheet.svelte';

  const books = getBooks();
  const sheet = getSheet();

  // The address of an account shows its card.
  const account = $derived(Number(page.url.searchParams.get('account')));
  $effect(() => {
    if (account && books.byId.has(account)) untrack(() => sheet.showCard(account));
  });
</script>

{#if books.chart?.rows.length}
  <main class={['sheet paper', books.staged.size === 0 && 'unstaged']} data-side={sheet.side}>
    <SheetToolbar />
    <Followed />
    <Sheet />
    {#if sheet.asked === 'card' && sheet.current}<Card row={sheet.current} />{/if}
  </main>
  <SheetDialogs />
  <StatusBar message={sheet.message} />
{:else}
  <main class="paper grid grow place-content-center gap-3 p-10 text-center">
    <h1 class="text-2xl">These books have no chart yet</h1>
    <p class="text-soft">Import a chart of accounts from a spreadsheet, then its journal.</p>
    <a class="btn btn-primary justify-self-center" href="/books/{books.id}/import">Import a chart</a
    >
  </main>
{/if}

<style>
  .sheet {
    position: relative;
    display: flex;
    flex-direction: column;
    flex: 1;
    min-height: 0;
    border-radius: 10px 10px 0 0;
    /* Of the sheet, not of the rows, which are narrower by their scroll bar: the crease runs through. */
    container-type: inline-size;
    --today: 61cqw;
  }
  /* Nothing happens yet: names of today have the room. */
  .unstaged {
    --today: 70cqw;
  }
  @media (max-width: 900px) {
    .sheet {
      --today: 52cqw;
    }
  }
  /* One side at a time. */
  @media (max-width: 700px) {
    .sheet {
      --today: 100cqw;
    }
    .sheet[data-side='after'] {
      --today: 0px;
    }
    .sheet :global(:is(.row-grid, .caps)) {
      grid-template-columns: minmax(0, 1fr);
    }
    .sheet[data-side='today'] :global(.after),
    .sheet[data-side='after'] :global(.today) {
      display: none;
    }
  }
</style>
