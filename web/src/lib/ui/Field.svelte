<!-- A line to type into, with what it is for above it. -->
<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';

  let {
    title,
    hint,
    value = $bindable(),
    focus = false,
    ...rest
  }: {
    title: string;
    hint?: string;
    value: string;
    /** Whether it is what one types into first. */
    focus?: boolean;
  } & Omit<HTMLInputAttributes, 'value'> = $props();
</script>

<label class="grid gap-1">
  <span class="hint">{title}</span>
  <input
    class="input w-full"
    bind:value
    {...rest}
    {@attach (input) => {
      if (focus) input.focus();
    }}
  />
  {#if hint}<span class="hint">{hint}</span>{/if}
</label>
