<!-- The undo of an applied plan, rehearsed before it is done. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, answer, type Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { count, plural } from '../figures';
  import Dialog from '../ui/Dialog.svelte';
  import FindingText from '../ui/FindingText.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { proof, close }: { proof: Schemas['ProofView']; close: () => void } = $props();
  const books = getBooks();
  let rehearsed = $state.raw<Schemas['UndoView'] | null>(null);
  const rehearsing = new Attempt();
  const undoing = new Attempt();
  let read = $state(false);
  const path = $derived({ params: { path: { books: books.id, application: proof.id } } });
  const findings = $derived(rehearsed?.report.findings ?? []);
  const stops = $derived(findings.filter((f) => f.severity === 'stop'));
  const cautions = $derived(findings.filter((f) => f.severity === 'caution'));

  const rehearse = () =>
    rehearsing.run(async () => {
      rehearsed = await answer(api.GET('/api/books/{books}/applications/{application}/undo', path));
    });
  $effect(() => void rehearse());

  async function undo(event: SubmitEvent) {
    event.preventDefault();
    await undoing.run(async () => {
      const { id } = await answer(
        api.POST('/api/books/{books}/applications/{application}/undo', {
          ...path,
          body: {
            fingerprint: rehearsed?.fingerprint ?? '',
            acknowledged: cautions.map((caution) => caution.key),
          },
        }),
      );
      await books.load();
      close();
      await goto(`/books/${books.id}/proof/${id}`);
    });
    if (undoing.problem) await rehearse();
  }
</script>

<Dialog title="Undo “{proof.name}”?" {close} wide>
  {#if rehearsed}
    <form onsubmit={undo}>
      <p class="mb-3">
        {plural(rehearsed.report.accounts_today, 'row')} of the chart become {count(
          rehearsed.report.accounts_after,
        )}; {plural(rehearsed.report.accounted, 'line')} of {count(rehearsed.report.lines)} are accounted
        for; the difference is <b>{rehearsed.report.difference}</b>.
      </p>
      {#each findings as finding (finding.key)}
        <div class="border-rule border-b py-2">
          <FindingText {finding}>
            {#each finding.remedies as way (way.label)}<span class="hint">{way.label}</span>{/each}
          </FindingText>
        </div>
      {/each}
      {#if cautions.length && !stops.length}
        <label class="mt-3 flex items-center gap-2">
          <input type="checkbox" class="checkbox checkbox-sm" required bind:checked={read} /> I have read
          this.
        </label>
      {/if}
      <Problem of={undoing} class="mt-3" />
      <div class="mt-4 flex justify-end gap-2">
        <button type="button" class="btn btn-quiet" onclick={close}>Not yet</button>
        <button class="btn btn-primary" disabled={undoing.busy || stops.length > 0}>
          {undoing.busy ? 'Undoing and reading back…' : 'Undo the plan'}
        </button>
      </div>
    </form>
  {:else if rehearsing.problem}
    <Problem of={rehearsing} />
  {:else}
    <p class="text-soft">Rehearsing…</p>
  {/if}
</Dialog>
