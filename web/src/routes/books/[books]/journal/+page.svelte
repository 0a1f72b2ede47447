<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { getBooks } from '$lib/books.svelte';
  import { plural } from '$lib/figures';
  import { asked as read, journal, type EntriesQuery } from '$lib/journal/address';
  import Entries from '$lib/journal/Entries.svelte';
  import { pagesOfEntries } from '$lib/journal/pages';
  import DayField from '$lib/ui/DayField.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const books = getBooks();
  const asked = $derived(read(page.url.searchParams));
  const account = $derived(asked.account === null ? null : books.byId.get(asked.account));
  const filtered = $derived(Object.values(asked).some((value) => value !== null));

  const entries = pagesOfEntries(books.id, () => asked);
  const shown = $derived(entries.data?.pages.flatMap((page) => page.entries) ?? []);

  const choose = (change: Partial<EntriesQuery>) =>
    goto(journal(books.id, { ...asked, ...change }), { keepFocus: true, noScroll: true });
</script>

{#snippet field(label: string, name: 'text' | 'amount', type: string, wide: string)}
  <label class="flex items-center gap-2">
    <span class="text-soft">{label}</span>
    <input
      class="input input-sm {wide}"
      {type}
      value={asked[name] ?? ''}
      onchange={(event) => choose({ [name]: event.currentTarget.value || null })}
    />
  </label>
{/snippet}

{#snippet dayField(label: string, name: 'from' | 'to')}
  <label class="flex items-center gap-2">
    <span class="text-soft">{label}</span>
    <DayField
      optional
      class="input input-sm w-38"
      {label}
      value={asked[name] ?? ''}
      choose={(day) => choose({ [name]: day || null })}
    />
  </label>
{/snippet}

<main class="paper flex min-h-0 grow flex-col overflow-hidden px-11 pt-6">
  <h1 class="text-2xl">Journal</h1>
  <p class="text-soft mt-1">
    {#if account}Entries with lines of <b class="font-semibold">{account.code} {account.name}</b
      >{#if asked.plan}, and of what the plan puts there{/if}{#if asked.code}, posted under {asked.code}{/if},
      the latest first.
    {:else}Every entry with all its lines, the latest first.{/if}
  </p>
  <div class="mt-3 mb-2 flex flex-wrap items-center gap-x-5 gap-y-2">
    {@render dayField('From', 'from')}
    {@render dayField('to', 'to')}
    {@render field('Number, payee or text', 'text', 'search', 'w-52')}
    {@render field('Amount', 'amount', 'text', 'w-28')}
    {#if filtered}<a class="link" href={journal(books.id, {})}>All entries</a>{/if}
  </div>
  <Problem asked={entries.error} class="mt-2" />
  <div class="min-h-0 grow overflow-auto pr-3 pb-6">
    {#if entries.isPending}
      <p class="text-soft mt-4">Reading the journal…</p>
    {:else if shown.length === 0 && !entries.error}
      <p class="text-soft mt-4">
        {#if filtered}No entry is like that.
        {:else}Nothing was posted yet. <a class="link" href="/books/{books.id}/import"
            >Import a journal</a
          >.{/if}
      </p>
    {:else if shown.length}
      <Entries entries={shown} account={asked.account} />
      <p class="hint mt-3">
        {plural(shown.length, 'entry', 'entries')} shown{entries.hasNextPage
          ? ''
          : ', all there are'}.
        {#if entries.hasNextPage}
          <button
            class="btn btn-sm btn-quiet ml-2"
            disabled={entries.isFetchingNextPage}
            onclick={() => entries.fetchNextPage()}>Show earlier ones</button
          >
        {/if}
      </p>
    {/if}
  </div>
</main>
