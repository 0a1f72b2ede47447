<!-- Chooses what to import and from where: a file, or a block copied from a spreadsheet. -->
<script lang="ts">
  import type { Row } from '../books.svelte';
  import type { WaitingFile } from './waiting.svelte';
  import { KINDS } from './kinds';

  let {
    file,
    kind = $bindable(),
    accounts,
  }: {
    file: WaitingFile;
    kind: string;
    /** The accounts that balances can be typed for. */
    accounts: Row[];
  } = $props();

  /** Whether somebody said what it is. */
  let said = $state(false);

  function bring(chosen: File | undefined) {
    if (chosen) void file.bring(kind, chosen, said);
  }

  /** An empty list of balances, to be typed over. */
  function type() {
    const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
    const rows = accounts.map(({ code, name }) => `${quoted(code)},${quoted(name)},,`);
    bring(new File([['Code,Name,Debit,Credit', ...rows].join('\n')], 'typed balances.csv'));
  }

  function drop(event: DragEvent) {
    event.preventDefault();
    bring(event.dataTransfer?.files[0]);
  }

  /** Cells on the clipboard are text with tabs between them. */
  function paste(event: ClipboardEvent) {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    const copied = event.clipboardData?.files[0];
    if (!copied && !text.trim()) return;
    event.preventDefault();
    bring(copied ?? new File([text], 'pasted block.tsv', { type: 'text/tab-separated-values' }));
  }
</script>

<svelte:window onpaste={paste} />
<div role="region" aria-label="Import a file" ondragover={(e) => e.preventDefault()} ondrop={drop}>
  <fieldset class="mb-6 grid max-w-2xl gap-1">
    <legend class="hint mb-1">What it is</legend>
    {#each KINDS as { key, title, columns } (key)}
      <label class="hover:bg-plum-wash flex cursor-pointer items-baseline gap-3 rounded px-2 py-2">
        <input
          type="radio"
          class="radio radio-sm radio-primary"
          value={key}
          bind:group={kind}
          onchange={() => (said = true)}
        />
        <span>{title}<span class="hint block">{columns}</span></span>
      </label>
    {/each}
  </fieldset>
  {#if kind === 'balances' && accounts.length}
    <p class="mb-4">
      <button class="btn btn-sm btn-quiet" disabled={file.busy !== ''} onclick={type}
        >Type them in, account by account</button
      >
    </p>
  {/if}
  <label
    class="border-rule-strong bg-base-200 grid max-w-2xl cursor-pointer place-items-center gap-2 rounded-lg border-2 border-dashed p-10 focus-within:outline-2"
  >
    <b class="text-primary font-semibold">{file.busy || 'Choose a file, or drop it here'}</b>
    <span class="hint">
      or paste cells copied from a spreadsheet:
      <kbd class="kbd kbd-xs">Ctrl</kbd> <kbd class="key">V</kbd>
    </span>
    <input
      type="file"
      class="sr-only"
      accept=".csv,.tsv,.tab,.txt,.xlsx,.xlsm,.xls,.ods,.xml"
      onchange={(event) => bring(event.currentTarget.files?.[0])}
    />
  </label>
</div>
