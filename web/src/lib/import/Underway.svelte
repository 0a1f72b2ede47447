<!-- How far the server is with a large file, whether it is read or stored; and the way to stop it. -->
<script lang="ts">
  import { count } from '../figures';
  import type { WaitingFile } from './waiting.svelte';

  let { file }: { file: WaitingFile } = $props();
  const progress = $derived(file.progress!);
  /** Rows so far, and of how many as far as that is known. */
  const phases = $derived([
    { words: 'read', rows: progress.rows_read, of: progress.rows_checked ? progress.rows_read : 0 },
    { words: 'checked', rows: progress.rows_checked, of: progress.rows_read },
    ...(progress.storing
      ? [{ words: 'stored', rows: progress.rows_stored, of: progress.rows_checked }]
      : []),
  ]);
</script>

<main class="paper grow overflow-auto p-9">
  <h1 class="text-2xl">{progress.storing ? 'Storing' : 'Reading'} {progress.file_name}</h1>
  <p class="text-soft mt-1 mb-8">
    {progress.storing
      ? 'All of it is stored, or nothing. You can leave this page; the work goes on.'
      : 'Nothing is stored yet. You can leave this page; the work goes on.'}
  </p>
  <div class="grid max-w-xl grid-cols-[auto_1fr_auto] items-center gap-x-6 gap-y-4">
    {#each phases as { words, rows, of } (words)}
      <span class="num text-right text-[15px] font-semibold">{count(rows)}</span>
      <progress
        class="progress progress-primary h-1.5"
        aria-label="Rows {words}"
        max={of || undefined}
        value={rows && !of ? undefined : rows}
      ></progress>
      <span class="hint">rows {words}</span>
    {/each}
  </div>
  <p class="mt-10">
    <button class="btn btn-quiet" disabled={file.stopping} onclick={() => file.stop()}
      >{file.stopping ? 'Stopping…' : 'Stop it'}</button
    >
  </p>
</main>
