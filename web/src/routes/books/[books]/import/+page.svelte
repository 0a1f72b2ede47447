<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, answer, sentence, type Schemas } from '$lib/api/client';
  import { getBooks } from '$lib/books.svelte';
  import { count, plural } from '$lib/figures';
  import FileAsItIs from '$lib/import/FileAsItIs.svelte';

  const books = getBooks();
  const KINDS: [string, string, string][] = [
    [
      'chart',
      'A chart of accounts',
      'Code, Name and Class; also Section, Heading, Row kind, Adds up …',
    ],
    [
      'journal',
      'A journal',
      'Entry, Date, Code, Debit and Credit; also Payee, Details, Currency …',
    ],
    [
      'crosswalk',
      'An old-to-new crosswalk',
      'Old code and New code; also New name. It is staged in a plan.',
    ],
    ['usage', 'A where-used list', 'Code, Used by and Called: bank rules, budget lines, items …'],
  ];
  let kind = $state(books.chart?.rows.length ? 'journal' : 'chart');
  let looked = $state.raw<Schemas['ImportView'] | null>(null);
  let busy = $state('');
  let problem = $state('');
  let stored = $state('');
  let leaveOut = $state(false);

  async function during<T>(words: string, work: () => Promise<T>): Promise<void> {
    busy = words;
    problem = '';
    try {
      await work();
    } catch (error) {
      problem = sentence(error);
    } finally {
      busy = '';
    }
  }

  async function choose(file: File | undefined) {
    if (!file) return;
    stored = '';
    leaveOut = false;
    await during(`Reading ${file.name}…`, async () => {
      const form = new FormData();
      form.set('kind', kind);
      form.set('file', file);
      looked = await answer(
        api.POST('/api/books/{books}/imports', {
          params: { path: { books: books.id } },
          body: form as never,
          bodySerializer: (body) => body,
        }),
      );
    });
  }

  const path = () => ({ params: { path: { books: books.id, import: looked?.id ?? 0 } } });

  async function store() {
    await during('Storing all of it…', async () => {
      const { rows } = await answer(api.POST('/api/books/{books}/imports/{import}', path()));
      const words = `${plural(rows, 'row')} of ${looked?.file_name} stored.`;
      await books.load();
      looked = null;
      if (kind === 'chart') kind = 'journal';
      stored = words;
    });
  }

  /** A crosswalk fills the open plan, or one named after the file. */
  async function stage() {
    await during('Staging all of it…', async () => {
      if (!books.plan) await books.begin(looked?.file_name.replace(/\.\w+$/, '') ?? 'Crosswalk');
      const body = { plan: books.plan?.id ?? 0, leave_out: leaveOut };
      await answer(api.POST('/api/books/{books}/imports/{import}/stage', { ...path(), body }));
      await books.load();
      await goto(`/books/${books.id}/plan`);
    });
  }

  async function leave() {
    await during('Dropping the file…', async () => {
      await answer(api.DELETE('/api/books/{books}/imports/{import}', path()));
      looked = null;
    });
  }

  function drop(event: DragEvent) {
    event.preventDefault();
    void choose(event.dataTransfer?.files[0]);
  }
</script>

{#if looked}
  <main class="paper flex min-h-0 grow overflow-hidden rounded-b-none!">
    <FileAsItIs {looked} />
  </main>
  <footer class="paper stitch flex min-h-[54px] items-center gap-7 rounded-t-none! px-4">
    <p>
      <b class="font-serif text-base font-semibold"
        >{KINDS.find(([key]) => key === looked?.kind)?.[1]}</b
      >
      <span class="hint block">{busy || 'nothing is stored yet'}</span>
    </p>
    <p>
      <b class="block text-[15px]">{count(looked.ready_rows)}</b><span class="hint">ready</span>
    </p>
    <p class={looked.rejected_rows ? 'text-error' : ''}>
      <b class="block text-[15px]">{count(looked.rejected_rows)}</b><span class="hint"
        >rejected</span
      >
    </p>
    <p>
      <b class="block text-[15px]">{looked.unused.length}</b>
      <span class="hint">{looked.unused.length === 1 ? 'column' : 'columns'} not used</span>
    </p>
    <p class="text-error grow text-xs" role="alert">{problem}</p>
    <button class="btn btn-quiet" disabled={busy !== ''} onclick={leave}>Leave the file</button>
    {#if looked.kind === 'crosswalk'}
      {#if looked.rejected_rows}
        <label class="flex items-center gap-2 text-xs">
          <input type="checkbox" class="checkbox checkbox-sm" bind:checked={leaveOut} />
          leave the {plural(looked.rejected_rows, 'misfit')} out
        </label>
      {/if}
      <button
        class="btn btn-primary"
        disabled={busy !== '' || looked.ready_rows === 0 || (looked.rejected_rows > 0 && !leaveOut)}
        onclick={stage}
      >
        Stage {plural(looked.ready_rows, 'row')}{books.plan ? ` in “${books.plan.name}”` : ''}
      </button>
    {:else}
      <button
        class="btn btn-primary"
        disabled={busy !== '' || looked.ready_rows === 0}
        onclick={store}
      >
        Store {plural(looked.ready_rows, 'row')}{looked.rejected_rows
          ? `, leave out ${count(looked.rejected_rows)}`
          : ''}
      </button>
    {/if}
  </footer>
{:else}
  <main class="paper grow overflow-auto p-9" ondragover={(e) => e.preventDefault()} ondrop={drop}>
    <h1 class="text-2xl">Bring in a file</h1>
    <p class="text-soft mt-1 mb-6">
      CSV, XLSX, XLS or ODS. It is shown first; nothing is stored until you agree, and then all of
      it or none.
    </p>
    {#if stored}
      <p class="bg-plum-wash mb-5 max-w-2xl rounded px-4 py-3" role="status">
        {stored}
        <button class="link" onclick={() => goto(`/books/${books.id}/chart`)}
          >Look at the chart</button
        >
      </p>
    {/if}
    <fieldset class="mb-6 grid max-w-2xl gap-1">
      <legend class="hint mb-1">What it is</legend>
      {#each KINDS as [key, title, columns] (key)}
        <label
          class="hover:bg-plum-wash flex cursor-pointer items-baseline gap-3 rounded px-2 py-2"
        >
          <input type="radio" class="radio radio-sm radio-primary" value={key} bind:group={kind} />
          <span>{title}<span class="hint block">{columns}</span></span>
        </label>
      {/each}
    </fieldset>
    <label
      class="border-rule-strong bg-base-200 grid max-w-2xl cursor-pointer place-items-center gap-2 rounded-lg border-2 border-dashed p-10 focus-within:outline-2"
    >
      <b class="text-primary font-semibold">{busy || 'Choose a file, or drop it here'}</b>
      <span class="hint">sheet and headings are found by themselves, also below title rows</span>
      <input
        type="file"
        class="sr-only"
        accept=".csv,.tsv,.tab,.txt,.xlsx,.xlsm,.xls,.ods"
        onchange={(event) => choose(event.currentTarget.files?.[0])}
      />
    </label>
    {#if problem}<p class="text-error mt-4 max-w-2xl" role="alert">{problem}</p>{/if}
  </main>
{/if}
