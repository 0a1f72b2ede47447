<!-- The day up to which figures are shown, and the way to lay another one down. -->
<script lang="ts">
  import { answer, api, sentence } from '$lib/api/client';
  import { getBooks } from '$lib/books.svelte';
  import { longDate, plural } from '$lib/figures';
  import Dialog from './Dialog.svelte';

  const books = getBooks();
  const asOf = $derived(books.chart?.as_of);
  /** The ends of periods, the latest first. */
  const ends = $derived(books.chart?.periods.map((period) => period.last).toReversed() ?? []);
  let open = $state(false);
  let date = $state('');
  let problem = $state('');

  function begin() {
    date = asOf?.laid_down ? asOf.date : '';
    problem = '';
    open = true;
  }

  async function layDown(event: SubmitEvent) {
    event.preventDefault();
    const params = { path: { books: books.id } };
    try {
      await answer(
        api.PUT('/api/books/{books}/as-of', { params, body: { date: date === '' ? null : date } }),
      );
      open = false;
      await books.load();
    } catch (error) {
      problem = sentence(error);
    }
  }
</script>

{#if asOf}
  <button
    class="cursor-pointer underline decoration-dotted underline-offset-4"
    onclick={begin}
    title="Choose up to which day figures are shown"
  >
    as of {longDate(asOf.date)}</button
  >{#if asOf.lines_ahead}<span class="text-warning">
      · {plural(asOf.lines_ahead, 'line')} dated ahead</span
    >{/if} ·
{/if}
{#if open}
  <Dialog title="Up to which day?" close={() => (open = false)}>
    <form class="grid gap-3" onsubmit={layDown}>
      <p class="hint">
        Balances, what stands in the way of a plan, and reports count lines up to this day. That no
        line is lost is proved over all of them.
      </p>
      <label class="grid gap-1">
        <span>The last day that counts</span>
        <select class="select w-full" bind:value={date}>
          <option value="">The latest month with its usual lines</option>
          {#each ends as end (end)}<option value={end}>{longDate(end)}</option>{/each}
        </select>
      </label>
      {#if problem}<p class="text-error" role="alert">{problem}</p>{/if}
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-quiet" onclick={() => (open = false)}>Leave it</button>
        <button class="btn btn-primary">Lay it down</button>
      </div>
    </form>
  </Dialog>
{/if}
