<!-- A dialog on the sheet. Escape and a click beside it close it; the focus stays inside. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { Dialog } from 'bits-ui';

  let {
    title,
    close,
    wide = false,
    children,
  }: { title: string; close: () => void; wide?: boolean; children: Snippet } = $props();

  /** The keys of the page behind it are not meant; that Escape closes it is heard further out. */
  function keep(event: KeyboardEvent) {
    if (event.key !== 'Escape') event.stopPropagation();
  }
</script>

<Dialog.Root open onOpenChange={(open) => !open && close()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="paper fixed top-1/2 left-1/2 z-50 max-h-[85vh] w-[91vw] -translate-1/2 overflow-auto p-6 {wide
        ? 'max-w-2xl'
        : 'max-w-md'}"
      onkeydown={keep}
      data-keeps-focus
    >
      <Dialog.Title class="mb-3 font-serif text-xl font-semibold">{title}</Dialog.Title>
      {@render children()}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
