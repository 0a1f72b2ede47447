<!-- What else a file may be, where it looks like something else or nothing of it can be read. -->
<script lang="ts">
  import { KINDS } from './kinds';
  import type { WaitingFile } from './waiting.svelte';

  let { file }: { file: WaitingFile } = $props();
  const looked = $derived(file.looked!);
  const seems = $derived(KINDS.find(({ key }) => key === looked.looks_like));
  const others = $derived(
    looked.missing.length
      ? KINDS.filter(({ key }) => key !== looked.kind && key !== seems?.key)
      : [],
  );

  const low = (words: string) => words.charAt(0).toLowerCase() + words.slice(1);
</script>

{#if file.source && (seems || others.length)}
  <p class="bg-ochre-wash mb-4 flex flex-wrap items-center gap-2 rounded px-3 py-2">
    {#if seems}
      It looks like {low(seems.title)}.
      <button
        class="btn btn-xs btn-primary"
        disabled={file.busy !== ''}
        onclick={() => file.readAs(seems.key)}>Read it as that</button
      >
    {/if}
    {#if others.length}
      <span class="text-soft">Or read it as</span>
      {#each others as other (other.key)}
        <button
          class="btn btn-xs btn-quiet"
          disabled={file.busy !== ''}
          onclick={() => file.readAs(other.key)}>{low(other.form)}</button
        >
      {/each}
    {/if}
  </p>
{/if}
