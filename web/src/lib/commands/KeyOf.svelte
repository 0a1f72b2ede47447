<!-- The usual key of a command, beside what a button says. -->
<script lang="ts">
  import type { Command } from './commands.svelte';

  let { of }: { of: Command | undefined } = $props();
</script>

{#if of?.keys?.[0]}<kbd class="kbd kbd-xs">{of.keys[0]}</kbd>{/if}
