<!-- The items of a class: renamed and ordered in place, merged, calculated, retired. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count } from '../figures';
  import EditableText from '../ui/EditableText.svelte';
  import Money from '../ui/Money.svelte';
  import type { Item, ItemsState } from './items.svelte';

  let {
    state: own,
    of,
    retired,
    merge,
    calculate,
  }: {
    state: ItemsState;
    of: Schemas['ItemsOfClassView'];
    /** Whether retired items are shown. */
    retired: boolean;
    /** Asks into which item it goes. */
    merge: (item: Item) => void;
    /** Asks for a subtotal or a ratio, or how one is calculated. */
    calculate: (of: Schemas['ItemsOfClassView'], ratio: boolean, item: Item | null) => void;
  } = $props();

  // A balance on the other side stands on another item of the balance sheet.
  const hasSides = $derived(['asset', 'liability', 'equity'].includes(of.class));
  const others = $derived(
    (own.classes ?? [])
      .filter((one) => ['asset', 'liability', 'equity'].includes(one.class))
      .flatMap((one) => own.open(one.class).map((item): [number, string] => [item.id, item.name])),
  );

  let added = $state('');
  const shown = $derived(of.items.filter((item) => retired || !item.retired));
  const after = (item: Item) => item.accounts + (own.staged.get(item.id) ?? 0);

  function keys(event: KeyboardEvent, item: Item) {
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : null;
    const row = event.currentTarget as HTMLElement;
    if (by === null || event.target instanceof HTMLInputElement) return;
    event.preventDefault();
    if (event.altKey) void own.move(of.class, item, by);
    else {
      const next = by < 0 ? row.previousElementSibling : row.nextElementSibling;
      next?.querySelector<HTMLElement>('button, input')?.focus();
    }
  }

  async function add(event: SubmitEvent) {
    event.preventDefault();
    await own.change({ do: 'add', class: of.class, name: added, before: null });
    if (!own.attempt.problem) added = '';
  }
</script>

<section class="mb-7" aria-labelledby="items-{of.class}">
  <table class="ledger">
    <thead>
      <tr>
        <th><h2 id="items-{of.class}" class="text-base-content text-lg">{of.title}</h2></th>
        <th class="num w-28 align-bottom">Accounts</th>
        <th class="num amount w-36 align-bottom">Balance</th>
        {#if hasSides}<th class="w-56 pl-6! align-bottom">Balances on the other side</th>{/if}
        <th class="w-56"></th>
      </tr>
    </thead>
    <tbody>
      {#each shown as item (item.id)}
        <tr onkeydown={(event) => keys(event, item)} class:retired={item.retired}>
          <td class="name">
            <EditableText
              text={item.name}
              label={item.name}
              busy={false}
              commit={(name) => own.change({ do: 'rename', item: item.id, name })}
            />
          </td>
          {#if item.kind !== 'item'}
            <td colspan="2" class="text-soft text-[13px]">{own.calculated(item)}</td>
          {:else}
            <td class="num">
              {count(item.accounts)}
              {#if after(item) !== item.accounts}
                <b class="text-warning font-semibold" title="once the plan is applied"
                  >→ {count(after(item))}</b
                >
              {/if}
            </td>
            <td class="num"><Money amount={item.balance} blank={item.accounts === 0} /></td>
          {/if}
          {#if hasSides}
            <td class="pl-6!">
              {#if item.kind === 'item' && !item.retired}
                <select
                  class={['side', !item.other_side && 'text-soft']}
                  aria-label="Balances on the other side of {item.name}"
                  value={item.other_side ?? 0}
                  onchange={(event) =>
                    own.change({
                      do: 'name_other_side',
                      item: item.id,
                      other: Number(event.currentTarget.value) || null,
                    })}
                >
                  <option value={0}>stay here</option>
                  {#each others.filter(([id]) => id !== item.id) as [id, name] (id)}
                    <option value={id}>{name}</option>
                  {/each}
                </select>
              {/if}
            </td>
          {/if}
          <td class="num whitespace-nowrap">
            {#if item.retired}
              <span class="hint mr-2">retired</span>
              <button
                class="link"
                aria-label="Restore {item.name}"
                onclick={() => own.change({ do: 'restore', item: item.id })}>Restore</button
              >
            {:else}
              <button
                class="move"
                tabindex="-1"
                aria-label="Move {item.name} up"
                onclick={() => own.move(of.class, item, -1)}>↑</button
              >
              <button
                class="move"
                tabindex="-1"
                aria-label="Move {item.name} down"
                onclick={() => own.move(of.class, item, 1)}>↓</button
              >
              {#if item.kind !== 'item'}
                <button class="link ml-3" onclick={() => calculate(of, item.kind === 'ratio', item)}
                  >Edit calculation</button
                >
                <button
                  class="link ml-3"
                  aria-label="Retire {item.name}"
                  onclick={() => own.change({ do: 'retire', item: item.id })}>Retire</button
                >
              {:else if after(item) > 0}
                <button
                  class="link ml-3"
                  aria-label="Merge into… {item.name}"
                  onclick={() => merge(item)}>Merge into…</button
                >
              {:else if item.accounts > 0}
                <span class="hint ml-3">empty after the plan</span>
              {:else}
                <button
                  class="link ml-3"
                  aria-label="Retire {item.name}"
                  onclick={() => own.change({ do: 'retire', item: item.id })}>Retire</button
                >
              {/if}
            {/if}
          </td>
        </tr>
      {/each}
      <tr>
        <td colspan={hasSides ? 5 : 4}>
          <form class="flex items-center gap-2" onsubmit={add}>
            <input
              class="input input-sm w-80"
              aria-label="New item under {of.title}"
              placeholder="Add an item"
              maxlength="200"
              bind:value={added}
            />
            {#if added.trim()}<button class="btn btn-sm btn-quiet">Add it</button>
            {:else}
              <button type="button" class="link ml-3" onclick={() => calculate(of, false, null)}
                >A subtotal…</button
              >
              <button type="button" class="link" onclick={() => calculate(of, true, null)}
                >A ratio…</button
              >
            {/if}
          </form>
        </td>
      </tr>
    </tbody>
  </table>
</section>

<style>
  .name {
    padding: 1px 12px 1px 0;
  }
  .name :global(button),
  .name :global(input) {
    padding: 4px 0;
  }
  .retired .name {
    color: var(--color-soft);
    text-decoration: line-through;
  }
  .side {
    background: transparent;
    border: 0;
    font-size: 13px;
    cursor: pointer;
    max-width: 13rem;
  }
  .side option {
    background: var(--color-base-100);
  }
  .move {
    width: 22px;
    border-radius: 4px;
    color: var(--color-soft);
    text-align: center;
  }
  .move:hover {
    background: var(--color-secondary);
  }
</style>
