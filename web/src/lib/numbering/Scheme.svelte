<!-- The numbering scheme of the books: the form of codes, and the blocks they belong to. -->
<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { api, answer, type Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { close, saved }: { close: () => void; saved: () => void } = $props();
  const books = getBooks();
  const path = { params: { path: { books: books.id } } };
  let view = $state.raw<Schemas['SchemeView'] | null>(null);
  let format = $state('');
  /** A select has no nothing: what is kept for all of a class has an empty text for its item. */
  type Block = Schemas['BlockForm'] | { class: Schemas['Class']; section: ''; codes: string };
  let blocks = $state<Block[]>([]);
  const attempt = new Attempt();

  function take(scheme: Schemas['SchemeForm']) {
    format = scheme.format;
    blocks = scheme.blocks.map((block) => (block.section ? block : { ...block, section: '' }));
  }

  async function load() {
    await attempt.run(async () => {
      view = await answer(api.GET('/api/books/{books}/scheme', path));
      take(view.scheme);
    });
  }
  void load();

  async function save(event: SubmitEvent) {
    event.preventDefault();
    const body = {
      format,
      blocks: blocks.map((block) => ({ ...block, section: block.section || null })),
    };
    await attempt.run(async () => {
      await answer(api.PUT('/api/books/{books}/scheme', { ...path, body }));
      saved();
      close();
    });
  }
</script>

<Dialog title="Numbering scheme" {close} wide>
  <form onsubmit={save}>
    <p class="text-soft mb-3">
      What codes are judged by. Setting one changes no account: what lies outside of its block is
      noticed in the review, and rules can fit codes into the blocks.
    </p>
    <div class="mb-3 flex flex-wrap gap-2">
      {#each view?.starting ?? [] as scheme (scheme.name)}
        <button
          type="button"
          class="btn btn-sm btn-quiet"
          title={scheme.about}
          onclick={() => take(scheme.scheme)}>{scheme.name}</button
        >
      {/each}
    </div>
    <label class="mb-3 flex items-center gap-3">
      Form of codes
      <input class="input input-sm w-48" required placeholder="4 digits" bind:value={format} />
      <span class="hint">4 digits, 4-6 digits, 1-12 characters, or a picture: ##-####</span>
    </label>
    <table class="ledger mb-2">
      <thead><tr><th>Class</th><th>Statement item</th><th>Codes</th><th></th></tr></thead>
      <tbody>
        {#each blocks as block, n (block)}
          <tr>
            <td>
              <select
                class="select select-sm w-28"
                aria-label="Class of block {n + 1}"
                bind:value={block.class}
              >
                {#each books.classes as { class: name } (name)}<option value={name}>{name}</option
                  >{/each}
              </select>
            </td>
            <td>
              <select
                class="select select-sm w-56"
                aria-label="Statement item of block {n + 1}"
                bind:value={block.section}
              >
                <option value="">all of the class</option>
                {#each books.captionsOf(block.class) as line (line.id)}
                  {#if line.standard}<option value={line.standard}>{line.name}</option>{/if}
                {/each}
              </select>
            </td>
            <td>
              <input
                class="input input-sm w-44"
                required
                placeholder="5000 to 5999"
                aria-label="Codes of block {n + 1}"
                bind:value={block.codes}
              />
            </td>
            <td>
              <button
                type="button"
                class="btn btn-xs btn-ghost"
                aria-label="Remove block {n + 1}"
                onclick={() => blocks.splice(n, 1)}><X size={13} /></button
              >
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
    <Problem of={attempt} class="mb-2" />
    <div class="flex justify-between">
      <button
        type="button"
        class="btn btn-sm btn-quiet"
        onclick={() => blocks.push({ class: 'expense', section: '', codes: '' })}
        >Another block</button
      >
      <button class="btn btn-primary">Set the scheme</button>
    </div>
  </form>
</Dialog>
