<!-- That somebody's password was chosen by a link that somebody else had sent: who owns the books is told. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { session } from '../api/session';
  import { instant } from '../figures';

  const me = createQuery(session);
  const used = $derived(me.data?.links_used ?? []);
</script>

{#if used.length}
  <div class="bg-ochre-wash mb-2 rounded-lg px-5 py-3" role="status">
    {#each used as one (one.name)}
      <p>
        The password of <b class="font-semibold">{one.name}</b> was chosen anew on
        {instant(one.at)}, by a link that
        <b class="font-semibold">{one.sent_by}</b> had sent. If nobody asked for it, ask them both, and
        look at the trail for what was done since.
      </p>
    {/each}
  </div>
{/if}
