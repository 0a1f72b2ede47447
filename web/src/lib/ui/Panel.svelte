<!-- A panel with fields beside the button that opens it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { Popover } from 'bits-ui';

  let { title, children }: { title: string; children: Snippet<[() => void]> } = $props();
  let open = $state(false);
</script>

<Popover.Root bind:open>
  <Popover.Trigger class="btn btn-sm btn-quiet">{title}</Popover.Trigger>
  <Popover.Portal>
    <Popover.Content
      align="end"
      sideOffset={4}
      class="paper border-rule-strong z-30 w-72 border p-2"
      data-keeps-focus
    >
      {@render children(() => (open = false))}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
