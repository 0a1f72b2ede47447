<!-- The last look before a plan is applied: what was counted, and every caution to be read. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { getBooks } from '../books.svelte';
  import { count, plural } from '../figures';
  import Dialog from '../ui/Dialog.svelte';
  import FindingText from '../ui/FindingText.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { close }: { close: () => void } = $props();
  const books = getBooks();
  const report = $derived(books.plan?.report);
  let read = $state(false);
  const applying = new Attempt();

  async function apply(event: SubmitEvent) {
    event.preventDefault();
    await applying.run(async () => {
      const proof = await books.apply();
      await goto(`/books/${books.id}/proof/${proof}`);
    });
    if (applying.problem) read = false;
  }
</script>

<Dialog title="Apply “{books.plan?.name}”?" {close} wide>
  {#if report}
    <form onsubmit={apply}>
      <p class="mb-3">
        {plural(report.accounts_today, 'row')} of the chart become {count(report.accounts_after)}.
        {plural(report.accounted, 'line')} of {count(report.lines)} are accounted for; the difference
        is
        <b>{report.difference}</b>. The plan can be undone.
      </p>
      {#if books.stops.length}
        <p class="text-error mb-2" role="alert">
          {plural(books.stops.length, 'stop')} stand in the way now.
        </p>
        <ul class="border-rule mb-3 max-h-56 overflow-y-auto border-y py-2">
          {#each books.stops as stop (stop.key)}<li class="py-1">
              <FindingText finding={stop} />
            </li>{/each}
        </ul>
      {/if}
      {#if books.cautions.length}
        <ul class="border-rule mb-3 max-h-56 overflow-y-auto border-y py-2">
          {#each books.cautions as caution (caution.key)}
            <li class="py-1"><FindingText finding={caution} /></li>
          {/each}
        </ul>
        <label class="flex items-center gap-2">
          <input type="checkbox" class="checkbox checkbox-sm" required bind:checked={read} />
          I have read {books.cautions.length === 1
            ? 'this caution'
            : `these ${count(books.cautions.length)} cautions`}.
        </label>
      {/if}
      <Problem of={applying} class="mt-3" />
      <div class="mt-4 flex justify-end gap-2">
        <button type="button" class="btn btn-quiet" onclick={close}>Not yet</button>
        <button class="btn btn-primary" disabled={applying.busy || books.stops.length > 0}>
          {applying.busy ? 'Applying and reading back…' : 'Apply'}
        </button>
      </div>
    </form>
  {/if}
</Dialog>
