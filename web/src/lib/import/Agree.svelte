<!-- The status-bar of a waiting file: how many rows are ready and what is not, and the agreement. -->
<script lang="ts">
  import { count, isZero, plural, signed } from '../figures';
  import { KINDS } from './kinds';
  import type { Opening } from './opening.svelte';
  import type { Taking } from './taking.svelte';
  import type { WaitingFile } from './waiting.svelte';
  import Problem from '../ui/Problem.svelte';

  let {
    file,
    taking,
    opening,
    planName,
    store,
    stage,
  }: {
    file: WaitingFile;
    taking: Taking;
    opening: Opening;
    /** The draft that is open, if one is. */
    planName: string | undefined;
    store: (again: boolean) => void;
    stage: (leaveOut: boolean, moves: boolean) => void;
  } = $props();
  const looked = $derived(file.looked!);
  const comparison = $derived(looked.comparison);
  const staged = $derived(looked.kind === 'crosswalk' || comparison != null);
  const unused = $derived(looked.columns.filter((column) => !column.field).length);
  const touched = $derived(comparison ? taking.count(comparison) : looked.ready_rows);
  let leaveOut = $state(false);
  let again = $state(false);
  let moves = $state(false);

  /** Whether something has to be said before the file can be stored. */
  const unsaid = $derived.by(() => {
    if (looked.balances) return !opening.date || (!isZero(looked.balances.gap) && !opening.takeGap);
    return looked.journal?.stored_before != null && !again;
  });
  /** The difference that must be zero before one goes on: the file's own, then what balances are off. */
  const must = $derived.by(() => {
    const own = looked.zero.amounts.length ? looked.zero.difference : null;
    if (own !== null && !isZero(own))
      return { of: 'the file’s difference', amount: own, taken: '' };
    const { balances } = looked;
    if (balances) {
      const taken =
        opening.takeGap && balances.gap_account ? `${balances.gap_account} takes it` : '';
      return { of: 'debits less credits', amount: balances.gap, taken };
    }
    return own === null ? null : { of: 'the file’s difference', amount: own, taken: '' };
  });
  const counts = $derived.by((): [number, string][] =>
    comparison
      ? [
          [comparison.new_rows, 'new'],
          [comparison.changed_rows, 'changed'],
          [comparison.same, 'the same'],
          [comparison.missing_rows, 'not in the file'],
        ]
      : looked.balances
        ? [
            [looked.balances.agree, 'agree'],
            [looked.balances.differing, 'differ'],
          ]
        : [[looked.ready_rows, 'ready']],
  );
</script>

<footer class="paper stitch flex min-h-[54px] items-center gap-6 rounded-t-none! px-4">
  <p>
    <b class="font-serif text-base font-semibold"
      >{KINDS.find(({ key }) => key === looked.kind)?.form}</b
    >
    <span class="hint block">{file.busy || 'nothing is stored yet'}</span>
  </p>
  {#each counts as [n, words] (words)}
    <p><b class="block text-[15px]">{count(n)}</b><span class="hint">{words}</span></p>
  {/each}
  <p class={looked.rejected_rows ? 'text-error' : ''}>
    <b class="block text-[15px]">{count(looked.rejected_rows)}</b><span class="hint">left out</span>
  </p>
  <p>
    <b class="block text-[15px]">{unused}</b>
    <span class="hint">{unused === 1 ? 'column' : 'columns'} not used</span>
  </p>
  {#if looked.questions.length}
    <p class="text-warning">
      <b class="block text-[15px]">{looked.questions.length}</b>
      <span class="hint">{looked.questions.length === 1 ? 'question' : 'questions'}</span>
    </p>
  {/if}
  {#if must}
    <p class="flex items-baseline gap-2">
      <span class="hint">{must.of}</span>
      <b
        class={[
          'font-serif text-2xl font-semibold',
          !isZero(must.amount) && !opening.takeGap && 'text-error',
        ]}>{signed(must.amount)}</b
      >
      {#if must.taken}<span class="hint">{must.taken}</span>{/if}
    </p>
  {/if}
  <Problem of={file.attempt} class="grow text-xs" />
  <button class="btn btn-quiet" disabled={file.busy !== ''} onclick={() => file.leave()}
    >Leave the file</button
  >
  {#if staged}
    {#if looked.rejected_rows}
      <label class="flex items-center gap-2 text-xs">
        <input type="checkbox" class="checkbox checkbox-sm" bind:checked={leaveOut} />
        leave the {plural(looked.rejected_rows, 'rejected row')} out
      </label>
    {/if}
    {#if looked.kind === 'crosswalk'}
      <label class="flex items-center gap-2 text-xs">
        <input type="checkbox" class="checkbox checkbox-sm" bind:checked={moves} />
        only move the history; both accounts stay
      </label>
    {/if}
    <button
      class="btn btn-primary"
      disabled={file.busy !== '' || touched === 0 || (looked.rejected_rows > 0 && !leaveOut)}
      onclick={() => stage(leaveOut, moves)}
    >
      Stage {comparison ? plural(touched, 'account') : plural(touched, 'row')}{planName
        ? ` in “${planName}”`
        : ''}
    </button>
  {:else}
    {#if looked.journal?.stored_before}
      <label class="flex items-center gap-2 text-xs">
        <input type="checkbox" class="checkbox checkbox-sm" bind:checked={again} />
        store the same lines again
      </label>
    {/if}
    <button
      class="btn btn-primary"
      disabled={file.busy !== '' || looked.ready_rows === 0 || unsaid}
      onclick={() => store(again)}
    >
      Store {looked.balances
        ? plural(looked.ready_rows, 'opening balance')
        : plural(looked.ready_rows, 'row')}{looked.rejected_rows
        ? `, leave out ${count(looked.rejected_rows)}`
        : ''}
    </button>
  {/if}
</footer>
