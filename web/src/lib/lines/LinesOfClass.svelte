<!-- The lines of a class: renamed and ordered in place, merged, reckoned, retired. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count } from '../figures';
  import EditableText from '../ui/EditableText.svelte';
  import Money from '../ui/Money.svelte';
  import type { Line, LinesState } from './lines.svelte';

  let {
    state: own,
    of,
    retired,
    merge,
    reckon,
  }: {
    state: LinesState;
    of: Schemas['LinesOfClassView'];
    /** Whether retired lines are shown. */
    retired: boolean;
    /** Asks into which line it goes. */
    merge: (line: Line) => void;
    /** Asks for a subtotal or a ratio, or how one is reckoned. */
    reckon: (of: Schemas['LinesOfClassView'], ratio: boolean, line: Line | null) => void;
  } = $props();

  // A balance on the other side stands on another line of the balance sheet.
  const hasSides = $derived(['asset', 'liability', 'equity'].includes(of.class));
  const others = $derived(
    (own.classes ?? [])
      .filter((one) => ['asset', 'liability', 'equity'].includes(one.class))
      .flatMap((one) => own.open(one.class).map((line): [number, string] => [line.id, line.name])),
  );

  let added = $state('');
  const shown = $derived(of.lines.filter((line) => retired || !line.retired));
  const after = (line: Line) => line.accounts + (own.staged.get(line.id) ?? 0);

  function keys(event: KeyboardEvent, line: Line) {
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : null;
    const row = event.currentTarget as HTMLElement;
    if (by === null || event.target instanceof HTMLInputElement) return;
    event.preventDefault();
    if (event.altKey) void own.move(of.class, line, by);
    else {
      const next = by < 0 ? row.previousElementSibling : row.nextElementSibling;
      next?.querySelector<HTMLElement>('button, input')?.focus();
    }
  }

  async function add(event: SubmitEvent) {
    event.preventDefault();
    await own.change({ do: 'add', class: of.class, name: added, before: null });
    if (!own.problem) added = '';
  }
</script>

<section class="mb-7" aria-labelledby="lines-{of.class}">
  <table class="ledger">
    <thead>
      <tr>
        <th><h2 id="lines-{of.class}" class="text-base-content text-lg">{of.title}</h2></th>
        <th class="num w-28 align-bottom">Accounts</th>
        <th class="num amount w-36 align-bottom">Balance</th>
        {#if hasSides}<th class="w-56 pl-6! align-bottom">Balances on the other side</th>{/if}
        <th class="w-56"></th>
      </tr>
    </thead>
    <tbody>
      {#each shown as line (line.id)}
        <tr onkeydown={(event) => keys(event, line)} class:retired={line.retired}>
          <td class="name">
            <EditableText
              text={line.name}
              label={line.name}
              busy={false}
              commit={(name) => own.change({ do: 'rename', line: line.id, name })}
            />
          </td>
          {#if line.kind !== 'line'}
            <td colspan="2" class="text-soft text-[13px]">{own.reckoned(line)}</td>
          {:else}
            <td class="num">
              {count(line.accounts)}
              {#if after(line) !== line.accounts}
                <b class="text-warning font-semibold" title="once the plan is applied"
                  >→ {count(after(line))}</b
                >
              {/if}
            </td>
            <td class="num"><Money amount={line.balance} blank={line.accounts === 0} /></td>
          {/if}
          {#if hasSides}
            <td class="pl-6!">
              {#if line.kind === 'line' && !line.retired}
                <select
                  class={['side', !line.other_side && 'text-soft']}
                  aria-label="Balances on the other side of {line.name}"
                  value={line.other_side ?? 0}
                  onchange={(event) =>
                    own.change({
                      do: 'name_other_side',
                      line: line.id,
                      other: Number(event.currentTarget.value) || null,
                    })}
                >
                  <option value={0}>stay here</option>
                  {#each others.filter(([id]) => id !== line.id) as [id, name] (id)}
                    <option value={id}>{name}</option>
                  {/each}
                </select>
              {/if}
            </td>
          {/if}
          <td class="num whitespace-nowrap">
            {#if line.retired}
              <span class="hint mr-2">retired</span>
              <button
                class="link"
                aria-label="Restore {line.name}"
                onclick={() => own.change({ do: 'restore', line: line.id })}>Restore</button
              >
            {:else}
              <button
                class="move"
                tabindex="-1"
                aria-label="Move {line.name} up"
                onclick={() => own.move(of.class, line, -1)}>↑</button
              >
              <button
                class="move"
                tabindex="-1"
                aria-label="Move {line.name} down"
                onclick={() => own.move(of.class, line, 1)}>↓</button
              >
              {#if line.kind !== 'line'}
                <button class="link ml-3" onclick={() => reckon(of, line.kind === 'ratio', line)}
                  >Reckon it anew</button
                >
                <button
                  class="link ml-3"
                  aria-label="Retire {line.name}"
                  onclick={() => own.change({ do: 'retire', line: line.id })}>Retire</button
                >
              {:else if after(line) > 0}
                <button
                  class="link ml-3"
                  aria-label="Merge into… {line.name}"
                  onclick={() => merge(line)}>Merge into…</button
                >
              {:else if line.accounts > 0}
                <span class="hint ml-3">empty after the plan</span>
              {:else}
                <button
                  class="link ml-3"
                  aria-label="Retire {line.name}"
                  onclick={() => own.change({ do: 'retire', line: line.id })}>Retire</button
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
              aria-label="New line under {of.title}"
              placeholder="A line of one’s own"
              maxlength="200"
              bind:value={added}
            />
            {#if added.trim()}<button class="btn btn-sm btn-quiet">Add it</button>
            {:else}
              <button type="button" class="link ml-3" onclick={() => reckon(of, false, null)}
                >A subtotal…</button
              >
              <button type="button" class="link" onclick={() => reckon(of, true, null)}
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
