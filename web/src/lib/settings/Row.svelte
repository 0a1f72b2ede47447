<!-- A setting: what it is, how it stands, and why it is so. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let { title, about, children }: { title: string; about?: string; children: Snippet } = $props();
</script>

<section class="grid grid-cols-[15rem_1fr] gap-x-8 py-3" aria-label={title}>
  <div>
    <h3 class="font-sans text-[13.5px] font-semibold">{title}</h3>
    {#if about}<p class="hint mt-1 leading-snug">{about}</p>{/if}
  </div>
  <div class="min-w-0">{@render children()}</div>
</section>
