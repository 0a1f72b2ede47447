<!-- From which day accounts are deactivated or archived; today unless another one is said. -->
<script lang="ts">
  import { today } from '../figures';
  import Dialog from '../ui/Dialog.svelte';
  import type { Retiring } from './sheet.svelte';

  let {
    whom,
    what,
    close,
    retire,
  }: {
    whom: string;
    what: Retiring;
    close: () => void;
    retire: (day: string) => void;
  } = $props();
  const VERBS = { deactivate: 'Deactivate', archive: 'Archive' };
  let day = $state(today());

  function submit(event: SubmitEvent) {
    event.preventDefault();
    if (day) retire(day);
  }
</script>

<Dialog title="{VERBS[what]} {whom}" {close}>
  <form class="grid gap-3" onsubmit={submit}>
    <p class="hint">
      {what === 'archive' ? 'Out of sight, but for years that had amounts.' : 'Still on reports.'}
      Lines that a file dates up to this day come in as they are; of lines dated after it you are asked.
    </p>
    <label class="grid grid-cols-[5rem_1fr] items-center gap-3">
      From
      <!-- svelte-ignore a11y_autofocus -->
      <input class="input w-44" type="date" required autofocus bind:value={day} />
    </label>
    <button class="btn btn-primary justify-self-end">Stage</button>
  </form>
</Dialog>
