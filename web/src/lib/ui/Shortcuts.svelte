<!-- What the keys do, on `?`. -->
<script lang="ts">
  import Dialog from './Dialog.svelte';

  let open = $state(false);
  const KEYS: [string, string][] = [
    ['↑ ↓ ← →', 'move on the After side; with Shift select rows'],
    ['Enter, F2', 'edit the cell, or choose what becomes of the row'],
    ['letters', 'on Code and Name: type over; “into 5010” as a code merges into 5010'],
    [
      'm h n g s',
      'on What happens: merge, move history, renumber, put under another heading, class and item',
    ],
    ['d a r x', 'on What happens: deactivate, archive, restore, delete'],
    ['Esc', 'leave the cell as it was'],
    ['Ctrl D', 'fill down; codes count on'],
    ['Ctrl C, Ctrl V', 'copy codes and names; paste a block from a spreadsheet'],
    ['Del', 'take back what is staged in the cell; in the last column all of the row'],
    ['Ctrl Z, Ctrl Y', 'undo your latest change of the plan, and redo it'],
    ['Space', 'open the account’s card; on a heading open or close it'],
    ['+', 'add an account or heading'],
    ['/', 'find by code or name, of now or before'],
    ['?', 'this list'],
  ];

  function question(event: KeyboardEvent) {
    const typing =
      event.target instanceof Element && event.target.closest('input, textarea, select');
    if (event.key === '?' && !typing) open = true;
  }
</script>

<svelte:window onkeydown={question} />
{#if open}
  <Dialog title="Keys" close={() => (open = false)} wide>
    <dl class="grid grid-cols-[9rem_1fr] gap-x-4 gap-y-2">
      {#each KEYS as [keys, deed] (keys)}
        <dt><kbd class="kbd kbd-xs">{keys}</kbd></dt>
        <dd>{deed}</dd>
      {/each}
    </dl>
  </Dialog>
{/if}
