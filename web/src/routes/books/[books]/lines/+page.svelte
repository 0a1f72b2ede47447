<script lang="ts">
  import { getBooks } from '$lib/books.svelte';
  import { plural } from '$lib/figures';
  import type { Schemas } from '$lib/api/client';
  import Reckoning from '$lib/lines/Reckoning.svelte';
  import LinesList from '$lib/lines/LinesList.svelte';
  import LinesOfClass from '$lib/lines/LinesOfClass.svelte';
  import { LinesState, type AskedOfLines, type Line } from '$lib/lines/lines.svelte';
  import Hem from '$lib/plan/Hem.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';

  const books = getBooks();
  const own = new LinesState(books);
  void own.load();
  let retired = $state(false);
  let merging = $state.raw<Line | null>(null);
  let into = $state(0);
  type Reckoned = { of: Schemas['LinesOfClassView']; ratio: boolean; line: Line | null };
  let reckoned = $state.raw<Reckoned | null>(null);
  let asked = $state.raw<AskedOfLines | null>(null);

  const all = $derived(own.classes?.flatMap((one) => one.lines) ?? []);
  const hidden = $derived(all.filter((line) => line.retired).length);
  const others = $derived.by(() => {
    const of = own.classes?.find((one) => one.lines.some((line) => line.id === merging?.id));
    return of ? own.open(of.class).filter((line) => line.id !== merging?.id) : [];
  });

  function ask(line: Line) {
    merging = line;
    into = others[0]?.id ?? 0;
  }

  async function merge(event: SubmitEvent) {
    event.preventDefault();
    const survivor = others.find((line) => line.id === into);
    const line = merging;
    merging = null;
    if (line && survivor) await own.merge(line, survivor);
  }

  async function bring(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget;
    const file = input.files?.[0];
    if (file) asked = await own.read(file);
    input.value = '';
  }
</script>

<main class="paper flex min-h-0 grow flex-col overflow-hidden rounded-b-none! px-11 pt-6">
  <div class="flex flex-wrap items-end gap-x-5 gap-y-2">
    <div class="w-96 grow">
      <h1 class="text-3xl">Lines of the statements</h1>
      <p class="text-soft mt-1">
        <kbd class="key">Enter</kbd> renames a line, <kbd class="key">Alt</kbd>
        <kbd class="key">↑ ↓</kbd> moves it. Merging is staged; the rest is done at once.
      </p>
    </div>
    {#if hidden}
      <label class="flex cursor-pointer items-center gap-1.5">
        <input type="checkbox" class="checkbox checkbox-xs" bind:checked={retired} />
        {plural(hidden, 'retired line')}
      </label>
    {/if}
    <span>
      Take the list away:
      {#each ['xlsx', 'ods', 'csv'] as format (format)}
        <a class="link ml-1" href="/api/books/{books.id}/exports/lines.{format}" download
          >{format.toUpperCase()}</a
        >
      {/each}
    </span>
    <label class="btn btn-sm btn-quiet focus-within:outline-2">
      Bring a list in…
      <input
        type="file"
        class="sr-only"
        accept=".csv,.tsv,.txt,.xlsx,.xlsm,.xls,.ods"
        onchange={bring}
      />
    </label>
  </div>
  {#if own.problem}<p class="text-error mt-3" role="alert">{own.problem}</p>{/if}
  {#if own.done}<p class="text-success mt-3" role="status">{own.done}</p>{/if}
  <div class="mt-4 min-h-0 grow overflow-auto pb-6">
    <div class="max-w-5xl">
      {#each own.classes ?? [] as of (of.class)}
        <LinesOfClass
          state={own}
          {of}
          {retired}
          merge={ask}
          reckon={(of, ratio, line) => (reckoned = { of, ratio, line })}
        />
      {:else}
        {#if !own.problem}<p class="text-soft">Reading the lines…</p>{/if}
      {/each}
    </div>
  </div>
</main>
<Hem />

{#if merging}
  <Dialog title="Merge “{merging.name}”" close={() => (merging = null)}>
    <form onsubmit={merge}>
      <p>
        {plural(merging.accounts, 'account')} will stand under the other line once the plan is applied.
        The empty line can be retired then.
      </p>
      <label class="mt-4 flex items-center gap-3">
        into
        <select class="select grow" bind:value={into} required>
          {#each others as line (line.id)}<option value={line.id}>{line.name}</option>{/each}
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
{#if reckoned}<Reckoning state={own} {...reckoned} close={() => (reckoned = null)} />{/if}
{#if asked}<LinesList state={own} {asked} close={() => (asked = null)} />{/if}
