<!-- A cell of a file that is typed over in place. -->
<script lang="ts">
  import type { WaitingFile } from './waiting.svelte';

  let { file, row, at, text }: { file: WaitingFile; row: number; at: number; text: string } =
    $props();
  let typed = $state<string | null>(null);

  function begin() {
    if (!file.busy) typed = text;
  }

  function commit() {
    const changed = typed !== null && typed !== text;
    const now = typed ?? '';
    typed = null;
    if (changed) void file.correct(row, at, now);
  }

  function key(event: KeyboardEvent) {
    if (event.key === 'Enter') commit();
    else if (event.key === 'Escape') typed = null;
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function focus(input: HTMLInputElement) {
    input.focus();
    input.select();
  }
</script>

{#if typed !== null}
  <input
    aria-label="Row {row}, new text"
    bind:value={typed}
    onkeydown={key}
    onblur={commit}
    {@attach focus}
  />
{:else}
  <button
    aria-label="Row {row}, {text || 'empty'}, correct it"
    ondblclick={begin}
    onkeydown={(event) => event.key === 'Enter' && begin()}>{text || '\u00a0'}</button
  >
{/if}

<style>
  button,
  input {
    padding: 4px 9px;
    width: 100%;
    min-width: 60px;
    text-align: inherit;
    overflow: hidden;
    text-overflow: ellipsis;
    cursor: text;
  }
</style>
