<!-- The first entries of a few, in place; the journal has the rest. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import { plural } from '../figures';
  import { journal, type EntriesQuery } from './address';
  import Entries from './Entries.svelte';
  import { pagesOfEntries } from './pages';
  import Problem from '../ui/Problem.svelte';

  let { asked, title }: { asked: Partial<EntriesQuery>; title: string } = $props();

  const books = getBooks();
  const entries = pagesOfEntries(books.id, () => asked);
  const shown = $derived(entries.data?.pages[0]?.entries ?? []);
</script>

<div class="bg-base-200/40 rounded px-4 py-2 text-[13px]">
  <p class="hint">
    {title}{#if entries.data}: {plural(
        shown.length,
        'entry',
        'entries',
      )}{/if}{#if entries.hasNextPage}
      and more{/if}.
    <a class="link" href={journal(books.id, asked)}>In the journal</a>
  </p>
  <Problem asked={entries.error} />
  {#if shown.length}<Entries entries={shown} account={asked.account ?? null} />{/if}
</div>
