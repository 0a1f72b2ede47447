<!-- What a list of items asks for, before anything is done. -->
<script lang="ts">
  import { plural } from '../figures';
  import Dialog from '../ui/Dialog.svelte';
  import type { ItemListView, ItemsState } from './items.svelte';

  let {
    state: own,
    asked,
    close,
  }: { state: ItemsState; asked: ItemListView; close: () => void } = $props();

  const nothing = $derived(asked.edits.length + asked.merges.length === 0);

  async function follow() {
    // Once it is closed there is nothing to ask for.
    const list = asked;
    close();
    await own.follow(list);
  }
</script>

<Dialog title="What the list asks for" {close} wide>
  {#if asked.refused.length}
    <p class="text-error font-semibold">{plural(asked.refused.length, 'row')} cannot be followed</p>
    <ul class="mb-3">
      {#each asked.refused as { row, reason } (row)}<li>Row {row}: {reason}</li>{/each}
    </ul>
  {/if}
  {#if nothing}<p>The items are that way already.</p>{/if}
  <ul class="max-h-80 overflow-auto">
    {#each asked.summary as said, n (n)}<li>{said}</li>{/each}
    {#each asked.merges as { item, into } (item)}
      <li>
        <b class="text-warning font-semibold">staged</b>: “{own.name(item)}” merges into “{own.name(
          into,
        )}”
      </li>
    {/each}
  </ul>
  <div class="mt-5 flex justify-end gap-2">
    <button class="btn btn-quiet" onclick={close}>Leave them as they are</button>
    <button class="btn btn-primary" disabled={nothing} onclick={follow}
      >{asked.refused.length ? 'Do the rest' : 'Do it'}</button
    >
  </div>
</Dialog>
