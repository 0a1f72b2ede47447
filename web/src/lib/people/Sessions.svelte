<!-- Where one is signed in; each session can be ended. -->
<script lang="ts">
  import { api, answer, type Schemas } from '../api/client';
  import { instant } from '../figures';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { sessions, changed }: { sessions: Schemas['SessionView'][]; changed: () => unknown } =
    $props();
  const attempt = new Attempt();

  async function end(call: Promise<{ error?: unknown; response: Response }>) {
    await attempt.run(async () => {
      await answer(call);
      await changed();
    });
  }
  const endOne = (session: number) =>
    end(api.DELETE('/api/account/sessions/{session}', { params: { path: { session } } }));

  /** A browser and its machine, as far as it says which they are. */
  function device(agent: string): string {
    const browser = /(Firefox|Edg|Chrome|Safari)\//.exec(agent)?.[1]?.replace('Edg', 'Edge');
    const system = /(Windows|Mac OS X|Android|iPhone|iPad|Linux)/.exec(agent)?.[1];
    return [browser, system?.replace(' X', '')].filter(Boolean).join(' on ') || agent || 'unknown';
  }
</script>

<table class="ledger">
  <thead>
    <tr><th>Browser</th><th>From</th><th>Signed in</th><th>Last used</th><th></th></tr>
  </thead>
  <tbody>
    {#each sessions as session (session.id)}
      <tr>
        <td title={session.agent}>{device(session.agent)}</td>
        <td>{session.client}</td>
        <td class="text-soft whitespace-nowrap">{instant(session.begun_at)}</td>
        <td class="text-soft whitespace-nowrap">{instant(session.used_at)}</td>
        <td class="num">
          {#if session.own}<span class="text-soft">this one</span>
          {:else}<button class="link" onclick={() => endOne(session.id)}>End</button>{/if}
        </td>
      </tr>
    {/each}
  </tbody>
</table>
{#if sessions.length > 1}
  <button class="btn btn-sm btn-quiet mt-3" onclick={() => end(api.DELETE('/api/account/sessions'))}
    >End all others</button
  >
{/if}
<Problem of={attempt} class="mt-2" />
