<!-- Remarks of one kind: what is seen, why it matters, and what can be staged about it. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import { plural } from '../figures';
  import { editsOf, isRemarkSettled, stage, type Remark } from './settled';

  let {
    remarks,
    show,
    dismiss,
  }: {
    remarks: Remark[];
    show: (account: number) => void;
    /** Says of a remark, or of all of its kind, that it is right in these books. */
    dismiss: (remark: Remark, reason: string, all: boolean) => Promise<void>;
  } = $props();
  /** The message of the remark of which somebody says why it is right here. */
  let saying = $state('');
  let reason = $state('');
  let all = $state(false);

  async function said(event: SubmitEvent) {
    event.preventDefault();
    const remark = remarks.find(({ message }) => message === saying);
    if (remark) await dismiss(remark, reason, all);
    [saying, reason, all] = ['', '', false];
  }
  const books = getBooks();
  const open = $derived(remarks.filter((remark) => !isRemarkSettled(books, remark)));
  /** Ways that can be gone for all at once: the first of each, and for names the second as well. */
  const together = $derived(
    [0, 1]
      .map((at) => open.flatMap((remark) => remark.fixes[at] ?? remark.fixes[0] ?? []))
      .map((fixes) => fixes.filter((mend) => !mend.adds))
      .filter((fixes, at) => fixes.length > 1 && (at === 0 || isAboutNames)),
  );
  const isAboutNames = $derived(remarks.some((remark) => remark.kind === 'name_form'));
  const WORDS = ['in sentence case', 'in title case'];
  // Two accounts that were out of their blocks would be offered the same code.
  const isAboutCodes = $derived(
    remarks.some(({ kind }) => kind === 'out_of_block' || kind === 'code_width'),
  );
</script>

{#if together.length && !isAboutCodes}
  <div class="mb-3 flex gap-2">
    {#each together as fixes, at (at)}
      <button class="btn btn-sm btn-primary" onclick={() => books.edit(fixes.flatMap(editsOf))}
        >{isAboutNames
          ? `Write all ${fixes.length} ${WORDS[at]}`
          : `Stage all ${plural(fixes.length, 'fix', 'fixes')}`}</button
      >
    {/each}
  </div>
{:else if isAboutCodes && open.length > 1}
  <p class="mb-3">
    <a class="btn btn-sm btn-quiet" href="/books/{books.id}/renumber">Renumber by a rule…</a>
  </p>
{/if}
<ul>
  {#each remarks as remark (remark.message)}
    {@const account = remark.accounts[0] ?? 0}
    {@const settled = isRemarkSettled(books, remark)}
    <li class="border-rule flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b py-2.5">
      <span class={['grow basis-96', settled && 'text-soft line-through']}>{remark.message}</span>
      {#if settled}<b class="text-warning text-xs font-semibold">staged</b>
      {:else}
        {#each remark.fixes as mend (mend.label)}
          <button class="btn btn-xs btn-quiet" onclick={() => stage(books, mend)}
            >{mend.label}</button
          >
        {/each}
        {#if remark.moves}
          <a class="btn btn-xs btn-quiet" href="/books/{books.id}/move/{account}">Move its lines…</a
          >
        {/if}
      {/if}
      {#if account}
        <button class="btn btn-xs btn-ghost" onclick={() => show(account)}>Show the row</button>
      {/if}
      <button
        class="btn btn-xs btn-ghost"
        aria-expanded={saying === remark.message}
        onclick={() => (saying = saying === remark.message ? '' : remark.message)}
        >Not in these books…</button
      >
      {#if saying === remark.message}
        <form class="flex w-full max-w-3xl flex-wrap items-center gap-3 py-1" onsubmit={said}>
          <input
            {@attach (input) => input.focus()}
            class="input input-sm grow"
            aria-label="Why it is right in these books"
            placeholder="Why it is right here"
            required
            maxlength="500"
            bind:value={reason}
          />
          <label class="flex items-center gap-2 text-sm">
            <input type="checkbox" class="checkbox checkbox-xs" bind:checked={all} />
            and all {remarks.length} of this kind
          </label>
          <button class="btn btn-sm btn-quiet">Remember it</button>
        </form>
      {/if}
    </li>
  {/each}
</ul>
