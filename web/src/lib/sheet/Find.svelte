<!-- Finds rows of the chart by code, name or former code as one types; Enter goes to the sheet. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { tick } from 'svelte';
  import { getBooks } from '../books.svelte';
  import { getCommands } from '../commands/commands.svelte';
  import KeyOf from '../commands/KeyOf.svelte';
  import { getSheet } from '../sheet/sheet.svelte';

  const books = getBooks();
  const sheet = getSheet();
  let input: HTMLInputElement;
  /** On its way to the sheet; Enter may come before it is there. */
  let going = Promise.resolve();

  function typed() {
    sheet.go(0, 0);
    if (!page.url.pathname.endsWith('/chart')) {
      going = goto(`/books/${books.id}/chart`, { keepFocus: true });
    }
  }

  async function toSheet() {
    await going;
    await tick();
    document.querySelector<HTMLElement>('[role="grid"]')?.focus();
  }

  function key(event: KeyboardEvent) {
    if (event.key === 'Escape') sheet.text = '';
    if (event.key === 'Escape' || event.key === 'Enter' || event.key === 'ArrowDown') {
      void toSheet();
      event.preventDefault();
    }
  }

  const find = {
    name: 'Find an account by code or name, of now or before',
    keys: ['/'],
    words: 'search filter',
    run: () => {
      input.focus();
      input.select();
    },
  };
  getCommands().offer({ title: 'Find', rank: 1, everywhere: true, commands: [find] });
</script>

<label class="input input-sm bg-base-100 hidden w-60 min-w-36 shrink md:flex" data-keeps-focus>
  <input
    bind:this={input}
    class="grow"
    aria-label="Find by code or name, of now or before"
    placeholder="Code or name, now or before"
    bind:value={sheet.text}
    oninput={typed}
    onkeydown={key}
  />
  <KeyOf of={find} />
</label>
