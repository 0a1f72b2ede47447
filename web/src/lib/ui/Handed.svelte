<!-- A link that is handed over: it is shown once. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { instant } from '../figures';

  let { to, handed, done }: { to: string; handed: Schemas['HandedOver']; done: () => void } =
    $props();
  let copied = $state(false);

  async function copy() {
    await navigator.clipboard.writeText(handed.link);
    copied = true;
  }
</script>

<div class="bg-ochre-wash my-3 rounded-lg p-4" role="status">
  <p>
    A letter with this link is on its way to <b class="font-semibold">{to}</b>. You can also hand it
    over yourself; it is followed once, until {instant(handed.expires_at)}, and not shown again.
  </p>
  <div class="mt-2 flex gap-2">
    <input class="input grow" readonly aria-label="Link" value={handed.link} />
    <button class="btn btn-quiet" onclick={copy}>{copied ? 'Copied' : 'Copy'}</button>
    <button class="btn btn-quiet" onclick={done}>Done</button>
  </div>
</div>
