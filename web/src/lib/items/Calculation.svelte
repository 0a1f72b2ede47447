<!-- A subtotal or a ratio: what it is called, and which rows it is calculated from. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import Dialog from '../ui/Dialog.svelte';
  import { sameOperand, type Item, type ItemsState } from './items.svelte';
  import Problem from '../ui/Problem.svelte';

  let {
    state: own,
    of,
    item,
    ratio,
    close,
  }: {
    state: ItemsState;
    /** Among whose items it stands. */
    of: Schemas['ItemsOfClassView'];
    /** The one that is calculated anew; none to add one. */
    item: Item | null;
    ratio: boolean;
    close: () => void;
  } = $props();

  type Term = Schemas['Term'];
  const operands = $derived(own.operands(item?.id ?? null));
  const begin = (): Term[] => {
    const none: Term = { of: { class: of.class }, taken_off: false };
    return item?.terms.map((term) => ({ ...term })) ?? (ratio ? [none, none] : [none]);
  };
  let name = $state('');
  let terms = $state.raw<Term[]>(begin());
  const words = $derived(own.calculated({ kind: ratio ? 'ratio' : 'subtotal', terms } as Item));
  const place = (term: Term) => operands.findIndex(([, own]) => sameOperand(own, term.of));

  function set(at: number, to: Partial<Term>) {
    terms = terms.map((term, n) => (n === at ? { ...term, ...to } : term));
  }

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    if (item) await own.change({ do: 'calculate', item: item.id, terms });
    else
      await own.change({ do: 'add_calculated', class: of.class, name, before: null, ratio, terms });
    if (!own.attempt.problem) close();
  }
</script>

<Dialog title={item ? item.name : ratio ? 'A ratio' : 'A subtotal'} {close}>
  <form onsubmit={keep}>
    {#if !item}
      <label class="flex items-center gap-3">
        called
        <input class="input input-sm grow" maxlength="200" required bind:value={name} />
      </label>
    {/if}
    <p class="text-soft mt-3 text-[13px]">
      Figures are taken as the statement shows them: on the income statement costs are less than
      nothing, so gross profit is income <b class="font-semibold">and</b> cost of sales; on the
      balance sheet net assets are assets <b class="font-semibold">less</b> liabilities.
    </p>
    <div class="mt-3 grid gap-2">
      {#each terms as term, at (at)}
        <div class="flex items-center gap-2">
          {#if ratio}<span class="w-16">{at ? 'in % of' : ''}</span>
          {:else}
            <select
              class="select select-sm w-20"
              aria-label="Sign of row {at + 1}"
              value={term.taken_off ? 'less' : 'and'}
              onchange={(event) => set(at, { taken_off: event.currentTarget.value === 'less' })}
            >
              <option>and</option><option>less</option>
            </select>
          {/if}
          <select
            class="select select-sm grow"
            aria-label="Row {at + 1}"
            value={place(term)}
            onchange={(event) => {
              const chosen = operands[Number(event.currentTarget.value)];
              if (chosen) set(at, { of: chosen[1] });
            }}
          >
            {#each operands as [label], n (n)}<option value={n}>{label}</option>{/each}
          </select>
          {#if !ratio && terms.length > 1}
            <button
              type="button"
              class="link whitespace-nowrap"
              aria-label="Without row {at + 1}"
              onclick={() => (terms = terms.filter((_, n) => n !== at))}>Leave out</button
            >
          {/if}
        </div>
      {/each}
    </div>
    {#if !ratio}
      <button
        type="button"
        class="link mt-2"
        onclick={() => (terms = [...terms, { of: { class: of.class }, taken_off: false }])}
        >One more row</button
      >
    {/if}
    <p class="mt-3 font-medium">{words}</p>
    <Problem of={own.attempt} class="mt-2" />
    <div class="mt-5 flex justify-end gap-2">
      <button type="button" class="btn btn-quiet" onclick={close}>Leave it</button>
      <button class="btn btn-primary">{item ? 'Keep it' : 'Add it'}</button>
    </div>
  </form>
</Dialog>
