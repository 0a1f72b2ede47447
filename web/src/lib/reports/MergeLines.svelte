<!-- Lines of a statement side by side over its columns: which of them stays. -->
<script lang="ts">
  import { type Schemas } from '../api/client';
  import { getBooks } from '../books.svelte';
  import { longDate, signed } from '../figures';
  import Dialog from '../ui/Dialog.svelte';
  import type { Marks } from './marks.svelte';
  import { Attempt } from '../ui/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let {
    marks,
    columns,
    close,
  }: { marks: Marks; columns: Schemas['StatementColumn'][]; close: () => void } = $props();

  const books = getBooks();
  const lines = $derived([...marks.lines.values()]);
  let into = $state(0);
  const attempt = new Attempt();
  const stays = $derived(lines.some(({ line }) => line === into) ? into : (lines[0]?.line ?? 0));

  async function stage(event: SubmitEvent) {
    event.preventDefault();
    const others = lines.filter(({ line }) => line !== stays);
    await attempt.run(async () => {
      await books.mergeLines(others.map(({ line }) => ({ line, into: stays })));
      marks.clear();
      close();
    });
  }
</script>

<Dialog title="Merge {lines.length} lines" {close}>
  <form onsubmit={stage}>
    <p>Which line stays? The accounts of the others come to stand on it, in every year.</p>
    <table class="ledger mt-3">
      <thead>
        <tr
          ><th></th>{#each columns as { until } (until)}<th class="num">{longDate(until)}</th
            >{/each}</tr
        >
      </thead>
      <tbody>
        {#each lines as { line, label, amounts } (line)}
          <tr>
            <td>
              <label class="flex items-center gap-2">
                <input
                  type="radio"
                  class="radio radio-xs"
                  name="stays"
                  checked={line === stays}
                  onchange={() => (into = line)}
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
