<script lang="ts">
  import { goto, replaceState } from '$app/navigation';
  import { page } from '$app/state';
  import { api, answer } from '$lib/api/client';
  import { getBooks } from '$lib/books.svelte';
  import { plural } from '$lib/figures';
  import Agree from '$lib/import/Agree.svelte';
  import Upload from '$lib/import/Upload.svelte';
  import ImportLog from '$lib/import/ImportLog.svelte';
  import FileAsItIs from '$lib/import/FileAsItIs.svelte';
  import Export from '$lib/import/Export.svelte';
  import HowRead from '$lib/import/HowRead.svelte';
  import { Opening } from '$lib/import/opening.svelte';
  import { Taking } from '$lib/import/taking.svelte';
  import Underway from '$lib/import/Underway.svelte';
  import { WaitingFile } from '$lib/import/waiting.svelte';
  import Problem from '$lib/ui/Problem.svelte';

  const books = getBooks();
  const file = new WaitingFile(books.id, wasStored);
  const looked = $derived(file.looked);
  let kind = $state<string>(books.chart?.rows.length ? 'journal' : 'chart');
  const accounts = $derived(
    (books.chart?.rows ?? []).filter(
      (row) =>
        row.kind === 'account' &&
        row.status === 'active' &&
        ['asset', 'liability', 'equity'].includes(row.class),
    ),
  );
  let stored = $state('');
  let taking = $state(new Taking());
  let opening = $state(new Opening());

  // The address names the file that waits, so that a reload shows it again.
  const waiting = Number(page.url.searchParams.get('file'));
  if (waiting) void file.open(waiting);
  $effect(() => {
    const id = looked?.id ?? file.progress?.id;
    if (id) stored = '';
    else {
      taking = new Taking();
      opening = new Opening();
    }
    const search = id ? `?file=${id}` : '';
    const settled = file.progress || (!file.busy && !file.attempt.problem);
    if (settled && page.url.search !== search) replaceState(page.url.pathname + search, {});
  });

  function wasStored(rows: number, name: string) {
    stored = `${plural(rows, 'row')} of ${name} stored.`;
    void books.load();
  }

  async function store(twice: boolean) {
    // A workbook or an audit file holds the journal as well.
    let again = null as { kind: string; file: File } | null;
    await file.during('Storing all of it…', async () => {
      const rows = await file.store({ again: twice, ...opening.form() });
      const next = looked?.other_sheets.find((other) => !other.before);
      const name = looked?.file_name ?? 'the file';
      file.looked = null;
      if (kind === 'chart') kind = 'journal';
      wasStored(rows, name);
      if (next && file.source) again = { kind: next.kind, file: file.source };
    });
    if (again) await file.bring(again.kind, again.file);
  }

  /** A crosswalk or a chart fills the open plan, or one named after the file. */
  async function stage(leaveOut: boolean, moves: boolean) {
    await file.during('Staging all of it…', async () => {
      if (!books.plan) await books.begin(looked?.file_name.replace(/\.\w+$/, '') ?? 'Crosswalk');
      const body = { plan: books.plan?.id ?? 0, leave_out: leaveOut, moves, ...taking.form() };
      await answer(api.POST('/api/books/{books}/imports/{import}/stage', { ...file.path(), body }));
      await books.load();
      await goto(`/books/${books.id}/plan`);
    });
  }
</script>

{#if file.progress}
  <Underway {file} />
{:else if looked}
  <main
    class="paper flex min-h-0 grow overflow-hidden rounded-b-none!"
    aria-busy={file.busy !== ''}
  >
    <FileAsItIs {file} {taking} />
    <HowRead {file} {opening} />
  </main>
  <Agree {file} {taking} {opening} planName={books.plan?.name} {store} {stage} />
{:else}
  <main class="paper grow overflow-auto p-9">
    <h1 class="text-2xl">Import a file</h1>
    <p class="text-soft mt-1 mb-6">
      CSV, XLSX, XLS or ODS, or an audit file (OECD SAF-T, or French accounting entries). It is
      shown first; nothing is stored until you agree, and then all of it or none.
    </p>
    {#if stored}
      <p class="bg-plum-wash mb-5 max-w-2xl rounded px-4 py-3" role="status">
        {stored}
        <button class="link" onclick={() => goto(`/books/${books.id}/chart`)}
          >Look at the chart</button
        >
      </p>
    {/if}
    <div class="flex flex-wrap gap-x-16 gap-y-10">
      <div class="min-w-80 grow max-w-2xl">
        {#if books.may('import')}<Upload {file} bind:kind {accounts} />
        {:else}<p class="text-soft">Your roles in these books bring no files in.</p>{/if}
        <Problem of={file.attempt} class="mt-4" />
        <ImportLog books={books.id} undone={() => books.load()} />
      </div>
      {#if books.may('export')}<Export
          books={books.id}
          hasChart={(books.chart?.rows.length ?? 0) > 0}
          hasProposed={books.chart?.rows.some((row) => row.code_proposed) ?? false}
        />{/if}
    </div>
  </main>
{/if}
