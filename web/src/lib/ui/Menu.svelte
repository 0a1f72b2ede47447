<!-- A menu beside what opens it; its rows are of the component library, which knows their keys. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { DropdownMenu } from 'bits-ui';

  let {
    summary,
    children,
    side = 'bottom',
    align = 'start',
    width = 'w-64',
    summaryClass = '',
    label,
  }: {
    summary: Snippet;
    children: Snippet;
    side?: 'top' | 'bottom';
    align?: 'start' | 'end';
    width?: string;
    summaryClass?: string;
    label?: string;
  } = $props();
</script>

<DropdownMenu.Root>
  <DropdownMenu.Trigger class="cursor-pointer text-left {summaryClass}" aria-label={label}
    >{@render summary()}</DropdownMenu.Trigger
  >
  <DropdownMenu.Portal>
    <DropdownMenu.Content
      {side}
      {align}
      sideOffset={4}
      class="paper border-rule-strong z-30 border p-2 {width}"
      data-keeps-focus
    >
      {@render children()}
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
