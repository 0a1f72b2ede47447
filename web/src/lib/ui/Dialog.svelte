<!-- A dialog on the sheet. Escape and a click beside it close it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let {
    title,
    close,
    wide = false,
    children,
  }: { title: string; close: () => void; wide?: boolean; children: Snippet } = $props();

  let dialog: HTMLDialogElement;
  // Opened once it is there: only then does the browser keep the focus inside.
  $effect(() => dialog.showModal());
</script>

<dialog
  bind:this={dialog}
  class="modal"
  aria-label={title}
  onclose={close}
  onkeydown={(event) => event.stopPropagation()}
>
  <div class={['modal-box paper max-h-[85vh]', wide ? 'max-w-2xl' : 'max-w-md']}>
    <h2 class="mb-3 text-xl">{title}</h2>
    {@render children()}
  </div>
  <form method="dialog" class="modal-backdrop"><button aria-label="Close">close</button></form>
</dialog>
