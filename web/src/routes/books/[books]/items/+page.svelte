<script lang="ts">
  import { getBooks } from '$lib/books.svelte';
  import { getCommands } from '$lib/commands/commands.svelte';
  import { plural } from '$lib/figures';
  import type { Schemas } from '$lib/api/client';
  import Calculation from '$lib/items/Calculation.svelte';
  import ItemsList from '$lib/items/ItemsList.svelte';
  import ItemsOfClass from '$lib/items/ItemsOfClass.svelte';
  import { ItemsState, type ItemListView, type Item } from '$lib/items/items.svelte';
  import StatusBar from '$lib/plan/StatusBar.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const books = getBooks();
  const own = new ItemsState(books);
  void own.load();
  let retired = $state(false);
  let merging = $state.raw<Item | null>(null);
  let into = $state(0);
  type Calculated = { of: Schemas['ItemsOfClassView']; ratio: boolean; item: Item | null };
  let calculated = $state.raw<Calculated | null>(null);
  let asked = $state.raw<ItemListView | null>(null);

  const all = $derived(own.classes?.flatMap((one) => one.items) ?? []);
  const hidden = $derived(all.filter((item) => item.retired).length);
  const others = $derived.by(() => {
    const of = own.classes?.find((one) => one.items.some((item) => item.id === merging?.id));
    return of ? own.open(of.class).filter((item) => item.id !== merging?.id) : [];
  });

  function ask(item: Item) {
    merging = item;
    into = others[0]?.id ?? 0;
  }

  async function merge(event: SubmitEvent) {
    event.preventDefault();
    const survivor = others.find((item) => item.id === into);
    const item = merging;
    merging = null;
    if (item && survivor) await own.merge(item, survivor);
  }

  async function bring(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget;
    const file = input.files?.[0];
    if (file) asked = await own.read(file);
    input.value = '';
  }

  getCommands().offer({
    title: 'Statement items',
    rank: 0,
    commands: [{ name: 'Show or hide retired items', run: () => (retired = !retired) }],
    notes: [
      ['Enter', 'on a name: rename the item'],
      ['Alt ↑ ↓', 'on a row: move the item among those of its class'],
    ],
  });
</script>

<main class="paper flex min-h-0 grow flex-col overflow-hidden rounded-b-none! px-11 pt-6">
  <div class="flex flex-wrap items-end gap-x-5 gap-y-2">
    <div class="w-96 grow">
      <h1 class="text-3xl">Statement items</h1>
      <p class="text-soft mt-1">
        <kbd class="key">Enter</kbd> renames an item, <kbd class="key">Alt</kbd>
        <kbd class="key">↑ ↓</kbd> moves it. Merging is staged; the rest is done at once.
      </p>
    </div>
    {#if hidden}
      <label class="flex cursor-pointer items-center gap-1.5">
        <input type="checkbox" class="checkbox checkbox-xs" bind:checked={retired} />
        {plural(hidden, 'retired item')}
      </label>
    {/if}
    <span>
      Export the list:
      {#each ['xlsx', 'ods', 'csv'] as format (format)}
        <a class="link ml-1" href="/api/books/{books.id}/exports/items.{format}" download
          >{format.toUpperCase()}</a
        >
      {/each}
    </span>
    <label class="btn btn-sm btn-quiet focus-within:outline-2">
      Import a list…
      <input
        type="file"
        class="sr-only"
        accept=".csv,.tsv,.txt,.xlsx,.xlsm,.xls,.ods"
        onchange={bring}
      />
    </label>
  </div>
  <Problem of={own.attempt} class="mt-3" />
  {#if own.done}<p class="text-success mt-3" role="status">{own.done}</p>{/if}
  <div class="mt-4 min-h-0 grow overflow-auto pb-6">
    <div class="max-w-5xl">
      {#each own.classes ?? [] as of (of.class)}
        <ItemsOfClass
          state={own}
          {of}
          {retired}
          merge={ask}
          calculate={(of, ratio, item) => (calculated = { of, ratio, item })}
        />
      {:else}
        {#if !own.attempt.problem}<p class="text-soft">Reading the items…</p>{/if}
      {/each}
    </div>
  </div>
</main>
<StatusBar />

{#if merging}
  <Dialog title="Merge “{merging.name}”" close={() => (merging = null)}>
    <form onsubmit={merge}>
      <p>
        {plural(merging.accounts, 'account')} will stand under the other item once the plan is applied.
        The empty item can be retired then.
      </p>
      <label class="mt-4 flex items-center gap-3">
        into
        <select class="select grow" bind:value={into} required>
          {#each others as item (item.id)}<option value={item.id}>{item.name}</option>{/each}
        </select>
      </label>
      <div class="mt-5 flex justify-end gap-2">
        <button type="button" class="btn btn-quiet" onclick={() => (merging = null)}
          >Leave it</button
        >
        <button class="btn btn-primary" disabled={!others.length}>Stage it</button>
      </div>
    </form>
  </Dialog>
{/if}
{#if calculated}<Calculation state={own} {...calculated} close={() => (calculated = null)} />{/if}
{#if asked}<ItemsList state={own} {asked} close={() => (asked = null)} />{/if}
