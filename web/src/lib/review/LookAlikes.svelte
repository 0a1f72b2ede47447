<!-- All groups of accounts that are probably the same thing, to be opened one by one or staged together. -->
<script lang="ts">
  import { SvelteMap, SvelteSet } from 'svelte/reactivity';
  import { getBooks } from '../books.svelte';
  import { count, plural, shortDate } from '../figures';
  import { mergeInto, unstage as back, type Edit } from '../staging/edits';
  import Balance from '../journal/Balance.svelte';
  import Evidence from './Evidence.svelte';
  import { isGroupSettled, keyOf, type LookAlike } from './settled';

  let { groups, open }: { groups: LookAlike[]; open: (group: LookAlike) => void } = $props();
  const books = getBooks();
  const SHOWN = 40;
  let shown = $state(SHOWN);
  /** Survivors that a person chose, by group. */
  const chosen = new SvelteMap<string, number>();
  const picked = new SvelteSet<string>();
  const survivor = (group: LookAlike) => chosen.get(keyOf(group)) ?? group.survivor;
  const unsettled = $derived(groups.filter((group) => !isGroupSettled(books, group)));
  const wanted = $derived(unsettled.filter((group) => picked.has(keyOf(group))));

  function edits(group: LookAlike): Edit[] {
    const stays = survivor(group);
    const others = group.accounts.filter((account) => account !== stays);
    return others.map((account) => mergeInto(account, stays));
  }

  async function stage(list: LookAlike[]) {
    await books.edit(list.flatMap(edits));
    picked.clear();
  }

  function pickAll(all: boolean) {
    picked.clear();
    if (all) unsettled.forEach((group) => picked.add(keyOf(group)));
  }

  const unstage = (group: LookAlike) =>
    books.edit(
      group.accounts
        .filter((account) => books.staged.get(account)?.has('fate'))
        .map((account) => back(account, 'fate')),
    );
</script>

{#if groups.length}
  <div class="mb-2 flex items-center gap-4">
    <label class="flex items-center gap-2 text-xs">
      <input
        type="checkbox"
        class="checkbox checkbox-sm"
        checked={unsettled.length > 0 && wanted.length === unsettled.length}
        disabled={unsettled.length === 0}
        onchange={(event) => pickAll(event.currentTarget.checked)}
      />
      all {count(unsettled.length)} groups
    </label>
    <button
      class="btn btn-sm btn-primary"
      disabled={wanted.length === 0}
      onclick={() => stage(wanted)}>Stage {plural(wanted.length, 'merge')}</button
    >
    <span class="hint">Open a group to see its accounts side by side.</span>
  </div>
{/if}
<ul>
  {#each groups.slice(0, shown) as group (keyOf(group))}
    {@const settled = isGroupSettled(books, group)}
    {@const stays = books.byId.get(survivor(group))}
    <li class="border-rule border-b py-4">
      <div class="flex items-start gap-3">
        <input
          type="checkbox"
          class="checkbox checkbox-sm mt-1.5"
          aria-label="Pick the group of {stays?.code}"
          checked={settled || picked.has(keyOf(group))}
          disabled={settled}
          onchange={() =>
            picked.has(keyOf(group)) ? picked.delete(keyOf(group)) : picked.add(keyOf(group))}
        />
        <table class="ledger">
          <tbody>
            {#each group.accounts as account (account)}
              {@const row = books.byId.get(account)}
              {#if row}
                <tr>
                  <td class="w-8">
                    <input
                      type="radio"
                      class="radio radio-sm radio-primary"
                      name="keep {keyOf(group)}"
                      aria-label="Keep {row.code} {row.name}"
                      checked={survivor(group) === account}
                      disabled={settled}
                      onchange={() => chosen.set(keyOf(group), account)}
                    />
                  </td>
                  <td class="w-20 font-medium">{row.code}</td>
                  <td class={survivor(group) === account ? 'font-semibold' : ''}>{row.name}</td>
                  <td class="text-soft w-28 whitespace-nowrap"
                    >{row.last ? shortDate(row.last, null) : 'never posted'}</td
                  >
                  <td class="num w-24">{plural(row.lines, 'line')}</td>
                  <td class="num w-32"><Balance amount={row.balance} {account} /></td>
                </tr>
              {/if}
            {/each}
          </tbody>
        </table>
      </div>
      <div class="ml-8">
        <div class="mt-2"><Evidence {group} /></div>
        <div class="mt-2 flex items-center gap-2">
          {#if settled}
            <b class="text-primary text-xs font-semibold">Staged in “{books.plan?.name}”</b>
            <button class="btn btn-xs btn-quiet" onclick={() => unstage(group)}
              >Undo the merge</button
            >
          {:else}
            <button class="btn btn-xs btn-primary" onclick={() => stage([group])}
              >Merge into {stays?.code}</button
            >
          {/if}
          <button class="btn btn-xs btn-quiet" onclick={() => open(group)}>Side by side</button>
        </div>
      </div>
    </li>
  {:else}
    <li class="text-soft py-4">No accounts are among these.</li>
  {/each}
</ul>
{#if groups.length > shown}
  <button class="btn btn-sm btn-quiet mt-3" onclick={() => (shown += SHOWN)}
    >Show more of {count(groups.length)}</button
  >
{/if}
