<!-- One thing that was found of a file, in a list of them, which a person may choose otherwise. -->
<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import Pick from './Pick.svelte';

  let {
    none = 'choose…',
    ...rest
  }: Omit<ComponentProps<typeof Pick>, 'none' | 'look'> & { none?: string } = $props();
</script>

<div class="border-rule flex items-center justify-between gap-3 border-b py-0.5">
  <dt class="text-soft shrink-0">{rest.label}</dt>
  <dd class="min-w-0"><Pick {...rest} {none} look="select-ghost pr-7 text-right font-medium" /></dd>
</div>
