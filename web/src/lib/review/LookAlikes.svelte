<!-- Groups of accounts that are probably the same thing: which one stays, and why they were found. -->
<script lang="ts">
  import { SvelteMap } from 'svelte/reactivity';
  import { getBooks, type Edit } from '../books.svelte';
  import { count, shortDate } from '../figures';
  import Money from '../ui/Money.svelte';
  import { isGroupSettled, type LookAlike } from './settled';

  let { groups, show }: { groups: LookAlike[]; show: (account: number) => void } = $props();
  const books = getBooks();
  const SHOWN = 40;
  let shown = $state(SHOWN);
  /** Survivors that a person chose, by the first account of the group. */
  const chosen = new SvelteMap<number, number>();
  const key = (group: LookAlike) => group.accounts[0] ?? 0;
  const survivor = (group: LookAlike) => chosen.get(key(group)) ?? group.survivor;

  function edits(group: LookAlike): Edit[] {
    const stays = survivor(group);
    const others = group.accounts.filter((account) => account !== stays);
    return others.map((account) => ({ account, field: 'fate', value: `merge:${stays}` }));
  }

  const merge = (group: LookAlike) => books.edit(edits(group));
  const takeBack = (group: LookAlike) =>
    books.edit(
      group.accounts
        .filter((account) => books.staged.get(account)?.has('fate'))
        .map((account) => ({ account, field: 'fate', value: null })),
    );
</script>

<ul>
  {#each groups.slice(0, shown) as group (key(group))}
    {@const settled = isGroupSettled(books, group)}
    <li class="border-rule border-b py-4">
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
                    name="keep {key(group)}"
                    aria-label="Keep {row.code} {row.name}"
                    checked={survivor(group) === account}
                    disabled={settled}
                    onchange={() => chosen.set(key(group), account)}
                  />
                </td>
                <td class="w-20 font-medium">{row.code}</td>
                <td class={survivor(group) === account ? 'font-semibold' : ''}>{row.name}</td>
                <td class="text-soft w-28 whitespace-nowrap"
                  >{row.last ? shortDate(row.last, null) : 'never posted'}</td
                >
                <td class="num w-24">{count(row.lines)} lines</td>
                <td class="num w-32"><Money amount={row.balance} /></td>
              </tr>
            {/if}
          {/each}
        </tbody>
      </table>
      <p class="hint mt-2 leading-relaxed">{group.evidence.join(' ')}</p>
      <div class="mt-2 flex items-center gap-2">
        {#if settled}
          <b class="text-primary text-xs font-semibold">Staged in “{books.plan?.name}”</b>
          <button class="btn btn-xs btn-quiet" onclick={() => takeBack(group)}>Take it back</button>
        {:else}
          <button class="btn btn-xs btn-primary" onclick={() => merge(group)}
            >Merge into {books.byId.get(survivor(group))?.code}</button
          >
        {/if}
        <button class="btn btn-xs btn-quiet" onclick={() => show(survivor(group))}
          >Show the row</button
        >
        <span class="hint ml-auto">{group.score} of 100 sure</span>
      </div>
    </li>
  {:else}
    <li class="text-soft py-4">No two accounts look like the same thing.</li>
  {/each}
</ul>
{#if groups.length > shown}
  <button class="btn btn-sm btn-quiet mt-3" onclick={() => (shown += SHOWN)}
    >Show more of {count(groups.length)}</button
  >
{/if}
