<!-- A letter with a link that went to somebody, and that nobody else is shown. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import type { Schemas } from '../api/client';
  import { session } from '../api/session';
  import { instant } from '../figures';

  let { sent, done }: { sent: Schemas['LetterSent']; done: () => void } = $props();
  const me = createQuery(session);
</script>

<div class="bg-ochre-wash my-3 flex items-start gap-4 rounded-lg p-4" role="status">
  <p class="grow">
    {#if me.data?.outbox}A letter to <b class="font-semibold">{sent.to}</b> lies in the
      <a class="link" href="/outbox">outbox</a>, which stands in for everybody’s mailbox here.{:else if sent.in_folder}A
      letter to <b class="font-semibold">{sent.to}</b> lies in the folder for letters on the server, which
      has no mail: whoever runs it prints it and hands it over closed.{:else}A letter is on its way
      to <b class="font-semibold">{sent.to}</b>.{/if}
    Its link can be followed once, until {instant(sent.expires_at)}, and stands nowhere else.
  </p>
  <button class="btn btn-quiet" onclick={done}>Done</button>
</div>
