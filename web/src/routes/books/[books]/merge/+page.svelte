<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { getBooks } from '$lib/books.svelte';
  import { getCommands, press } from '$lib/commands/commands.svelte';
  import Merge from '$lib/merge/Merge.svelte';
  import { MergingState } from '$lib/merge/merging.svelte';
  import StatusBar from '$lib/plan/StatusBar.svelte';
  import { getSheet } from '$lib/sheet/sheet.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Picker from '$lib/ui/Picker.svelte';

  const books = getBooks();
  const sheet = getSheet();
  const merging = new MergingState(books);
  const query = $derived(page.url.searchParams);
  const accounts = $derived((query.get('accounts') ?? '').split(',').map(Number).filter(Boolean));
  const survivor = $derived(Number(query.get('into')) || undefined);
  let adding = $state(false);
  const others = $derived(
    sheet.all.filter(
      (row) =>
        row.kind === 'account' &&
        row.status === 'active' &&
        !row.added &&
        !accounts.includes(row.id),
    ),
  );
  $effect(() => {
    if (accounts.length > 0) void merging.load(accounts, survivor);
  });

  async function show(account: number) {
    sheet.reveal(account);
    await goto(`/books/${books.id}/chart`);
  }

  async function add(account: number) {
    adding = false;
    await goto(`/books/${books.id}/merge?accounts=${[...accounts, account].join(',')}`);
  }

  const ofMerge = {
    title: 'This merge',
    rank: 0,
    commands: [
      { name: 'Stage the merge', keys: ['Enter'], run: () => merging.stage() },
      { name: 'Another account…', run: () => (adding = true) },
      { name: 'Back to the chart', keys: ['Esc'], run: () => show(accounts[0] ?? 0) },
    ],
  };
  getCommands().offer(ofMerge);

  function key(event: KeyboardEvent) {
    const elsewhere =
      event.target instanceof Element && event.target.closest('button, a, dialog, select');
    if (!elsewhere) void press(ofMerge.commands, event);
  }
</script>

<svelte:window onkeydown={key} />
<main class="paper min-h-0 grow overflow-auto rounded-b-none! px-9 py-6">
  <div class="mb-4 flex items-baseline gap-4">
    <h1 class="text-2xl">Merge accounts</h1>
    <p class="text-soft grow">
      Lines are not rewritten: they keep the code they were posted under, and stand under the
      account that stays. Pick what is kept of each.
    </p>
    {#if accounts.length > 0}
      <button class="btn btn-sm btn-quiet" onclick={() => (adding = true)}>Another account…</button>
    {/if}
  </div>
  {#if accounts.length > 0}
    <Merge {merging} {show} />
  {:else}
    <p>
      No accounts are chosen yet. <button class="link" onclick={() => (adding = true)}
        >Choose the first…</button
      >, or begin with <a class="link" href="/books/{books.id}/review">what the review finds</a>.
    </p>
  {/if}
</main>
<StatusBar />
{#if adding}
  <Dialog
    title={accounts.length > 0 ? 'Which account as well?' : 'Which account?'}
    close={() => (adding = false)}
  >
    <Picker rows={others} label="Account to merge" choose={(row) => add(row.id)} />
  </Dialog>
{/if}
