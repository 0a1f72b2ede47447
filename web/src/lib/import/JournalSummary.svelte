<!-- What the entries of a journal come to before they are stored, and the codes that somebody has to
     say something of. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { count, instant, longDate, magnitude, plural, signed } from '../figures';
  import Dialog from '../ui/Dialog.svelte';
  import Picker from '../ui/Picker.svelte';
  import Choice from './Choice.svelte';
  import type { CodeMeans, WaitingFile } from './waiting.svelte';

  type Late = Schemas['LateView'];
  let { file }: { file: WaitingFile } = $props();
  const books = getBooks();
  const looked = $derived(file.looked!);
  const journal = $derived(looked.journal!);
  const posting = $derived(
    books.chart?.rows.filter((row) => row.kind === 'account' && row.status === 'active') ?? [],
  );
  const said = $derived(Object.entries(looked.choices.accounts));
  /** The code for which an account is being chosen. */
  let mapping = $state<string | null>(null);

  function means(code: string, to: CodeMeans | null) {
    void file.choose(({ accounts }) => {
      const others = Object.entries(accounts).filter(([other]) => other !== code);
      return { accounts: Object.fromEntries(to ? [...others, [code, to]] : others) };
    });
  }

  /** The account whose late lines get a successor. */
  let succeeded = $state<number | null>(null);

  /** The key of what is said of late lines. */
  const meansOf = (late: Late) =>
    late.means === null || late.means === undefined
      ? late.holder
        ? 'holder'
        : ''
      : typeof late.means === 'string'
        ? late.means
        : 'successor';

  function say(account: number, means: Schemas['LateMeans'] | null) {
    void file.choose(({ late }) => {
      const others = Object.entries(late).filter(([other]) => other !== String(account));
      return { late: Object.fromEntries(means ? [...others, [account, means]] : others) };
    });
  }

  function becomes(late: Late, key: string) {
    if (key === 'successor') succeeded = late.account;
    else if (key === 'open_again' || key === 'left_out') say(late.account, key);
    else say(late.account, null);
  }

  function words(to: CodeMeans): string {
    return 'account' in to ? books.label(to.account) : `new: ${to.new.name}, ${to.new.class}`;
  }
</script>

{#snippet fact(label: string, value: string)}
  <div class="border-rule flex justify-between gap-3 border-b py-1.5">
    <dt class="text-soft">{label}</dt>
    <dd class="font-medium">{value}</dd>
  </div>
{/snippet}

{#if journal.unknown.length}
  <h2 class="mb-1 text-base">{plural(journal.unknown.length, 'code')} nobody bears</h2>
  <p class="hint mb-2">Their rows are left out until you say what they stand for.</p>
  <ul class="mb-5">
    {#each journal.unknown as unknown (unknown.code)}
      <li class="bg-ochre-wash mb-2 rounded px-3 py-2">
        <p class="mb-1.5">
          <b class="text-warning">{unknown.code}</b>
          {unknown.name}
          <span class="hint">in {plural(unknown.rows, 'row')}</span>
          {#if unknown.several}<span class="hint block">several accounts used to bear it</span>{/if}
        </p>
        <div class="flex gap-2">
          <button
            class="btn btn-xs btn-quiet"
            disabled={file.busy !== ''}
            onclick={() => (mapping = unknown.code)}>Map it to…</button
          >
          <select
            class="select select-xs grow"
            aria-label="Add {unknown.code} as a new account"
            disabled={file.busy !== ''}
            onchange={(event) =>
              means(unknown.code, {
                new: {
                  name: unknown.name || `Account ${unknown.code}`,
                  class: event.currentTarget.value as Schemas['Class'],
                },
              })}
          >
            <option value="" selected disabled>Add it as…</option>
            {#each books.classes as { class: cls } (cls)}
              <option value={cls}
                >{cls}{cls === unknown.class ? ', like its neighbours' : ''}</option
              >
            {/each}
          </select>
        </div>
      </li>
    {/each}
  </ul>
{/if}

{#if journal.late.length}
  <h2 class="mb-1 text-base">Dated after the account was closed</h2>
  <p class="hint mb-2">Lines up to the day come in as they are. Of those after it:</p>
  <ul class="mb-5">
    {#each journal.late as late (late.account)}
      <li class="bg-ochre-wash mb-2 rounded px-3 py-2">
        <p class="mb-1.5">
          <b class="text-warning">{late.label}</b>
          <span class="hint block"
            >{late.status} from {longDate(late.since)}: {plural(late.lines, 'line')} of
            {longDate(late.first)}{late.last === late.first
              ? ''
              : ` to ${longDate(late.last)}`}</span
          >
        </p>
        <select
          class="select select-xs w-full"
          aria-label="What becomes of lines of {late.label}"
          disabled={file.busy !== ''}
          value={meansOf(late)}
          onchange={(event) => becomes(late, event.currentTarget.value)}
        >
          {#if late.holder}<option value="holder"
              >they go to {late.holder}, as its history did</option
            >
          {:else}<option value="" disabled>say what becomes of them…</option>{/if}
          <option value="successor"
            >{typeof late.means === 'object' && late.means
              ? `they go to ${books.label(late.means.successor)}`
              : 'they go to its successor…'}</option
          >
          {#if !late.holder}<option value="open_again">the account is opened again</option>{/if}
          <option value="left_out">their entries are left out</option>
        </select>
      </li>
    {/each}
  </ul>
{/if}

<h2 class="mb-2 text-base">What it comes to</h2>
<dl class="mb-5">
  {@render fact('Entries', count(journal.entries))}
  {@render fact('Lines', count(looked.ready_rows))}
  {#if journal.overlap}
    {@render fact('In the journal already', plural(journal.overlap.known_rows, 'row'))}
  {/if}
  {@render fact('Debits', magnitude(journal.debits))}
  {@render fact('Credits', magnitude(journal.debits))}
  {#if journal.first && journal.last}
    {@render fact('From', longDate(journal.first))}
    {@render fact('To', longDate(journal.last))}
  {/if}
  {@render fact('Entries off balance', count(journal.unbalanced_entries))}
  {#if looked.applied.length}
    <Choice
      label="Codes"
      {file}
      value={`${looked.choices.codes_before ?? 0}`}
      options={[
        ['0', 'as they are today'],
        ...looked.applied.map(({ id, name }): [string, string] => [`${id}`, `before “${name}”`]),
      ]}
      pick={(id) => file.choose({ codes_before: Number(id) || null })}
    />
  {/if}
</dl>
{#if journal.stored_before}
  <p class="bg-brick-wash mb-5 rounded px-3 py-2" role="alert">
    <b class="text-error">The same lines were stored before</b>, from {journal.stored_before
      .file_name} on
    {instant(journal.stored_before.at)}.
  </p>
{/if}
{#if journal.unbalanced_entries}
  <ul class="mb-5">
    {#each journal.unbalanced.slice(0, 20) as { number, difference } (number)}
      <li class="border-rule flex justify-between border-b py-1">
        <span class="truncate">{number}</span><span class="text-error">{signed(difference)}</span>
      </li>
    {/each}
  </ul>
{/if}
{#if said.length}
  <h2 class="mb-1 text-base">Said of codes</h2>
  <ul class="mb-5">
    {#each said as [code, to] (code)}
      <li class="border-rule flex items-baseline gap-2 border-b py-1">
        <b class="font-medium">{code}</b> <span class="grow truncate">{words(to)}</span>
        <button class="link text-xs" disabled={file.busy !== ''} onclick={() => means(code, null)}
          >unsay</button
        >
      </li>
    {/each}
  </ul>
{/if}
{#if journal.mapped.length}
  <h2 class="mb-1 text-base">Codes that are not today’s</h2>
  <ul class="mb-5">
    {#each journal.mapped as { code, account } (code)}
      <li class="border-rule flex gap-3 border-b py-1">
        <b class="font-medium">{code}</b> <span class="text-soft">goes to</span>
        <span class="truncate">{account}</span>
      </li>
    {/each}
  </ul>
{/if}

{#if succeeded !== null}
  <Dialog title="What takes the place of {books.label(succeeded)}" close={() => (succeeded = null)}>
    <Picker
      rows={posting}
      label="The account that its later lines go to"
      choose={(row) => {
        say(succeeded!, { successor: row.id });
        succeeded = null;
      }}
    />
  </Dialog>
{/if}
{#if mapping}
  <Dialog title="What {mapping} stands for" close={() => (mapping = null)}>
    <Picker
      rows={posting}
      label="The account that its lines go to"
      choose={(row) => {
        means(mapping!, { account: row.id });
        mapping = null;
      }}
    />
  </Dialog>
{/if}
