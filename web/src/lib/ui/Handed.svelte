<!-- A link that is handed over: it is shown once. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { instant } from '../figures';

  let {
    to,
    handed,
    sent,
    done,
  }: {
    to: string;
    handed: Schemas['HandedOver'];
    /** Whether it was sent as well. */
    sent: boolean;
    done: () => void;
  } = $props();
  let copied = $state(false);

  async function copy() {
    await navigator.clipboard.writeText(handed.link);
    copied = true;
  }
</script>

<div class="bg-ochre-wash my-3 rounded-lg p-4" role="status">
  <p>
    {#if sent}A letter with this link is on its way to <b class="font-semibold">{to}</b>. You can
      also hand it over yourself;{:else}Hand this link over to <b class="font-semibold">{to}</b
      >;{/if}
    it is followed once, until {instant(handed.expires_at)}, and not shown again.
  </p>
  <div class="mt-2 flex gap-2">
    <input class="input grow" readonly aria-label="Link" value={handed.link} />
    <button class="btn btn-quiet" onclick={copy}>{copied ? 'Copied' : 'Copy'}</button>
    <button class="btn btn-quiet" onclick={done}>Done</button>
  </div>
</div>
