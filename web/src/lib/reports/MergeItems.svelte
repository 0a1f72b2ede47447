<!-- Items of a statement side by side over its columns: which of them stays. -->
<script lang="ts">
  import { type Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { longDate, signed } from '../figures';
  import Dialog from '../ui/Dialog.svelte';
  import type { Marks } from './marks.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let {
    marks,
    columns,
    close,
  }: { marks: Marks; columns: Schemas['StatementColumn'][]; close: () => void } = $props();

  const books = getBooks();
  const items = $derived([...marks.items.values()]);
  let into = $state(0);
  const attempt = new Attempt();
  const stays = $derived(items.some(({ item }) => item === into) ? into : (items[0]?.item ?? 0));

  async function stage(event: SubmitEvent) {
    event.preventDefault();
    const others = items.filter(({ item }) => item !== stays);
    await attempt.run(async () => {
      await books.mergeItems(others.map(({ item }) => ({ item, into: stays })));
      marks.clear();
      close();
    });
  }
</script>

<Dialog title="Merge {items.length} items" {close}>
  <form onsubmit={stage}>
    <p>Which item stays? The accounts of the others move to it, in every year.</p>
    <table class="ledger mt-3">
      <thead>
        <tr
          ><th></th>{#each columns as { until } (until)}<th class="num">{longDate(until)}</th
            >{/each}</tr
        >
      </thead>
      <tbody>
        {#each items as { item, label, amounts } (item)}
          <tr>
            <td>
              <label class="flex items-center gap-2">
                <input
                  type="radio"
                  class="radio radio-xs"
                  name="stays"
                  checked={item === stays}
                  onchange={() => (into = item)}
                />
                {label}
              </label>
            </td>
            {#each columns as { until }, n (until)}<td class="num">{signed(amounts[n] ?? '0')}</td
              >{/each}
          </tr>
        {/each}
      </tbody>
    </table>
    <Problem of={attempt} class="mt-3" />
    <div class="mt-5 flex justify-end gap-2">
      <button type="button" class="btn btn-quiet" onclick={close}>Leave them</button>
      <button class="btn btn-primary">Stage it</button>
    </div>
  </form>
</Dialog>
