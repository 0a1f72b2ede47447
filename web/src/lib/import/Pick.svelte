<!-- A choice of how a file is read. -->
<script lang="ts">
  import type { WaitingFile } from './waiting.svelte';

  let {
    label,
    file,
    options,
    value,
    none,
    look = '',
    pick,
  }: {
    label: string;
    file: WaitingFile;
    options: [key: string, words: string][];
    /** The key of what was found or chosen; empty when nothing was. */
    value: string;
    /** What is said when nothing was. */
    none: string;
    look?: string;
    pick: (key: string) => void;
  } = $props();
</script>

<select
  class={['select select-sm w-full', look]}
  aria-label={label}
  disabled={file.busy !== ''}
  {value}
  onchange={(event) => pick(event.currentTarget.value)}
>
  {#if !value}<option value="" disabled>{none}</option>{/if}
  {#each options as [key, words] (key)}<option value={key}>{words}</option>{/each}
</select>
