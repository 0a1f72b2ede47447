<!-- The files that were imported, and how that is undone. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, answer, type Schemas } from '../api/client';
  import { count, instant, plural } from '../figures';
  import Dialog from '../ui/Dialog.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { books, undone }: { books: number; undone: () => Promise<void> } = $props();
  let asked = $state.raw<Schemas['StoredFileView'] | null>(null);
  let brought = $state.raw<Schemas['RollbackView'] | null>(null);
  const attempt = new Attempt();
  const SHOWN = 8;
  let all = $state(false);

  const listed = createQuery(() => ({
    queryKey: ['imports', books],
    queryFn: ({ signal }) =>
      answer(api.GET('/api/books/{books}/imports', { params: { path: { books } }, signal })),
  }));
  const files = $derived(listed.data ?? []);

  const path = (id: number) => ({ params: { path: { books, import: id } } });

  async function ask(file: Schemas['StoredFileView']) {
    [asked, brought] = [file, null];
    await attempt.run(async () => {
      brought = await answer(
        api.GET('/api/books/{books}/imports/{import}/rollback', path(file.id)),
      );
    });
  }

  async function undo(id: number) {
    await attempt.run(async () => {
      await answer(api.DELETE('/api/books/{books}/imports/{import}/rollback', path(id)));
      asked = null;
      await Promise.all([listed.refetch(), undone()]);
    });
  }

  const list = new Intl.ListFormat('en-GB');
  function taken({ entries, lines, accounts, uses }: Schemas['RollbackView']): string {
    const parts = [
      entries && `${plural(entries, 'entry', 'entries')} with ${plural(lines, 'line')}`,
      accounts && plural(accounts, 'account'),
      uses && plural(uses, 'where-used entry', 'where-used entries'),
    ];
    return list.format(parts.filter((part) => part !== 0)) || 'nothing';
  }
</script>

{#if files.length}
  <h2 class="mt-10 mb-2 text-lg">Imported before</h2>
  <table class="ledger">
    <thead>
      <tr><th>File</th><th>What</th><th class="num">Rows</th><th>When and by whom</th><th></th></tr>
    </thead>
    <tbody>
      {#each all ? files : files.slice(0, SHOWN) as file (file.id)}
        <tr>
          <td class="font-medium">{file.file_name}</td>
          <td class="text-soft">{file.kind}</td>
          <td class="num">{count(file.rows)}</td>
          <td class="text-soft">{instant(file.at)}, {file.person}</td>
          <td class="num">
            {#if file.rolled_back_at}
              <span class="hint">undone</span>
            {:else}
              <button class="btn btn-xs btn-quiet" onclick={() => ask(file)}>Undo import…</button>
            {/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if files.length > SHOWN && !all}
    <button class="link mt-2" onclick={() => (all = true)}>All {count(files.length)}</button>
  {/if}
{/if}

{#if asked}
  <Dialog title="Undo the import of {asked.file_name}" close={() => (asked = null)}>
    <Problem of={attempt} />
    {#if brought}
      {#if brought.blockers.length}
        <p class="mb-2">Something was built on it since:</p>
        <ul class="mb-4 list-disc pl-5">
          {#each brought.blockers as reason (reason)}<li>{reason}</li>{/each}
        </ul>
      {:else}
        <p class="mb-4">That takes {taken(brought)} away. The trail keeps that they were here.</p>
      {/if}
      <div class="flex justify-end gap-2">
        <button class="btn btn-quiet" onclick={() => (asked = null)}>Leave it</button>
        <button
          class="btn btn-primary"
          disabled={brought.blockers.length > 0}
          onclick={() => undo(asked!.id)}>Undo the import</button
        >
      </div>
    {:else if !attempt.problem}<p class="text-soft">Looking at what was built on it…</p>{/if}
  </Dialog>
{/if}
