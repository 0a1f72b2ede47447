<!-- A text that is typed over in place: Enter or a double click begins, Enter ends, Escape gives up. -->
<script lang="ts">
  let {
    text,
    label,
    busy,
    commit,
  }: { text: string; label: string; busy: boolean; commit: (typed: string) => void } = $props();
  let typed = $state<string | null>(null);

  function begin() {
    if (!busy) typed = text;
  }

  function end() {
    const changed = typed !== null && typed !== text;
    const now = typed ?? '';
    typed = null;
    if (changed) commit(now);
  }

  function key(event: KeyboardEvent) {
    if (event.key === 'Enter') end();
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
    aria-label="{label}, new text"
    bind:value={typed}
    onkeydown={key}
    onblur={end}
    {@attach focus}
  />
{:else}
  <button
    aria-label="{label}, correct it"
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
