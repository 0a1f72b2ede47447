<!-- The text field inside the cell that is being edited. -->
<script lang="ts">
  import { Asking } from '../api/debounce';
  import { api, answer } from '../api/client';
  import { getSheet } from './sheet.svelte';

  const sheet = getSheet();
  let message = $state('');
  let free = $state(true);
  const asking = new Asking();

  /** A code that is being typed says at once whether it is free and where it would stand. */
  async function ask(code: string, account: number) {
    const isLatest = asking.begin();
    const query = { plan: sheet.books.plan?.id, code, account };
    const params = { path: { books: sheet.books.id }, query };
    const place = await answer(api.GET('/api/books/{books}/codes', { params })).catch(() => null);
    if (!isLatest() || !place) return;
    [message, free] = [place.message, place.free];
  }
  $effect(() => {
    const code = sheet.editing?.trim() ?? '';
    const row = sheet.current;
    if (sheet.column !== 'code' || !row || !code || code.startsWith('into') || code === row.code) {
      message = '';
      asking.begin();
    } else void ask(code, row.id);
  });

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

{#if message}<span class={['message', !free && 'text-error']} role="status">{message}</span>{/if}

<style>
  .message {
    position: absolute;
    top: 28px;
    left: 24px;
    z-index: 8;
    max-width: 420px;
    padding: 1px 8px;
    background: var(--color-base-100);
    border: 1px solid var(--rule-strong);
    border-radius: 6px;
    box-shadow: 0 4px 12px var(--shadow);
    font-size: 12px;
    font-weight: 400;
    white-space: normal;
    line-height: 1.4;
  }
  input {
    width: 100%;
    height: 24px;
    background: transparent;
    color: var(--color-base-content);
    font-weight: 400;
    outline: none;
  }
</style>
