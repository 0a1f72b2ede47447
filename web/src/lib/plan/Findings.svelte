<!-- Stops and cautions, each with its sentence and its ways out. -->
<script lang="ts">
  import { getBooks, type Finding } from '../books.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import FindingText from '../ui/FindingText.svelte';
  import WaysOut from '../ui/WaysOut.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { findings, show }: { findings: Finding[]; show: (account: number) => void } = $props();
  const books = getBooks();
  let overriding = $state.raw<Finding | null>(null);
  let reason = $state('');
  const attempt = new Attempt();

  async function override(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      await books.override(overriding?.key ?? '', reason);
      overriding = null;
    });
  }
</script>

<ul>
  {#each findings as finding (finding.key)}
    <li class="border-rule border-b py-3">
      <FindingText {finding} />
      <div class="mt-2 flex flex-wrap items-center gap-2">
        <WaysOut {finding} take={(edits) => books.edit(edits)} />
        {#if finding.accounts[0] !== undefined}
          <button class="btn btn-xs btn-quiet" onclick={() => show(finding.accounts[0] ?? 0)}
            >Show the row</button
          >
        {/if}
        {#if finding.can_override && books.may('override')}
          {#if finding.overridden}
            <button class="btn btn-xs btn-quiet" onclick={() => books.override(finding.key, null)}
              >Stop again</button
            >
          {:else}
            <button
              class="btn btn-xs btn-quiet"
              onclick={() => {
                overriding = finding;
                reason = '';
                attempt.clear();
              }}>Go on, with a reason…</button
            >
          {/if}
        {/if}
      </div>
    </li>
  {/each}
</ul>

{#if overriding}
  <Dialog title="Go on in spite of this stop" close={() => (overriding = null)}>
    <form onsubmit={override}>
      <p class="mb-3">{overriding.sentence}</p>
      <!-- svelte-ignore a11y_autofocus -->
      <textarea
        class="textarea w-full"
        aria-label="Reason"
        placeholder="The reason; it is kept in the trail and shown in the proof"
        required
        autofocus
        bind:value={reason}
      ></textarea>
      <Problem of={attempt} class="mt-2" />
      <div class="mt-3 flex justify-end"><button class="btn btn-primary">Go on</button></div>
    </form>
  </Dialog>
{/if}
