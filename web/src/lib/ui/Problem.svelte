<!-- Why what was tried or asked for failed, while it did. -->
<script lang="ts">
  import { sentence } from '../api/client';
  import type { Attempt } from '../api/attempt.svelte';

  let {
    of,
    asked,
    class: own = '',
  }: {
    of?: Attempt;
    /** Why what is shown here could not be had. */
    asked?: Error | null;
    class?: string;
  } = $props();
  const problem = $derived(of?.problem || (asked ? sentence(asked) : ''));
</script>

{#if problem}<p class="text-error {own}" role="alert">{problem}</p>{/if}
