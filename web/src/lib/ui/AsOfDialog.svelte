<!-- Sets the as-of date: up to which day figures are shown. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { answer, api } from '$lib/api/client';
  import { getBooks } from '$lib/books.svelte';
  import { longDate } from '$lib/figures';
  import Dialog from './Dialog.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from './Problem.svelte';

  let { close }: { close: () => void } = $props();
  const books = getBooks();
  /** The ends of periods, the latest first. */
  const ends = $derived(books.chart?.periods.map((period) => period.last).toReversed() ?? []);
  const now = books.chart?.as_of;
  let date = $state(now?.fixed || now?.for_once ? now.date : '');
  const attempt = new Attempt();

  async function save(event: SubmitEvent) {
    event.preventDefault();
    const params = { path: { books: books.id } };
    const body = { as_of: { date: date === '' ? null : date } };
    await attempt.run(async () => {
      await answer(api.PUT('/api/books/{books}/settings', { params, body }));
      close();
      await books.load();
    });
  }
</script>

<Dialog title="Up to which day?" {close}>
  <form class="grid gap-3" onsubmit={save}>
    <p class="hint">
      Balances, what stands in the way of a plan, and reports count lines up to this day. That no
      line is lost is proved over all of them. To only look shows balances of another day, and
      changes nothing.
    </p>
    <label class="grid gap-1">
      <span>The last day that counts</span>
      <select class="select w-full" bind:value={date}>
        <option value="">The latest month with its usual lines</option>
        {#each ends as end (end)}<option value={end}>{longDate(end)}</option>{/each}
      </select>
    </label>
    <Problem of={attempt} />
    <div class="mt-2 flex justify-end gap-2">
      <button type="button" class="btn btn-quiet" onclick={close}>Leave it</button>
      <button
        type="button"
        class="btn btn-quiet"
        disabled={date === ''}
        onclick={async () => {
          close();
          await goto(`${page.url.pathname}?day=${date}`);
        }}>Only look</button
      >
      {#if books.may('configure')}<button class="btn btn-primary">Set the day</button>{/if}
    </div>
  </form>
</Dialog>
