<!-- The text field inside the cell that is being edited. -->
<script lang="ts">
  import { getSheet } from './sheet.svelte';

  const sheet = getSheet();

  function key(event: KeyboardEvent) {
    event.stopPropagation();
    const steps: Record<string, [number, number]> = {
      Enter: [event.shiftKey ? -1 : 1, 0],
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      Tab: [0, event.shiftKey ? -1 : 1],
    };
    const step = steps[event.key];
    if (step) void sheet.commit(...step);
    else if (event.key === 'Escape') sheet.cancel();
    else return;
    event.preventDefault();
  }

  function focus(input: HTMLInputElement) {
    input.focus();
    input.setSelectionRange(input.value.length, input.value.length);
  }
</script>

<input
  aria-label="New {sheet.column}"
  bind:value={sheet.editing}
  onkeydown={key}
  onblur={() => sheet.editing !== null && sheet.commit(0)}
  onpaste={(event) => event.stopPropagation()}
  {@attach focus}
/>

<style>
  input {
    width: 100%;
    height: 24px;
    background: transparent;
    color: var(--color-base-content);
    font-weight: 400;
    outline: none;
  }
</style>
