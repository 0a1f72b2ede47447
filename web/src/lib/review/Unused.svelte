<!-- Accounts that are not used, with the fate that each qualifies for, staged one by one or together. -->
<script lang="ts">
  import { SvelteSet } from 'svelte/reactivity';
  import { getBooks } from '../books.svelte';
  import { count, plural, shortDate } from '../figures';
  import Balance from '../journal/Balance.svelte';
  import { giveFate } from '../staging/edits';
  import DayField from '../ui/DayField.svelte';
  import { isUnusedSettled, type Unused } from './settled';

  let {
    accounts,
    since,
    show,
    sinceChanged,
  }: {
    accounts: Unused[];
    /** The day since when an account has to be posted to, not to be listed. */
    since: string;
    show: (account: number) => void;
    sinceChanged: (day: string) => void;
  } = $props();
  const books = getBooks();
  const WORDS: Record<string, string> = {
    delete: 'Delete',
    archive: 'Archive',
    deactivate: 'Deactivate',
  };
  const picked = new SvelteSet<number>();
  const open = $derived(
    accounts.filter((unused) => unused.fate && !isUnusedSettled(books, unused)),
  );
  /** What leaves a balance standing is looked at one by one. */
  const together = $derived(open.filter((unused) => !unused.leaves_balance));
  const wanted = $derived(open.filter((unused) => picked.has(unused.account)));

  async function stage(list: Unused[]) {
    await books.edit(list.flatMap(({ account, fate }) => (fate ? [giveFate(account, fate)] : [])));
    picked.clear();
  }

  function pickAll(all: boolean) {
    picked.clear();
    if (all) together.forEach(({ account }) => picked.add(account));
  }
</script>

<label class="mb-3 flex items-center gap-2">
  Never posted to, marked as old by its name, or not posted to since
  <DayField class="blank w-32" label="Posted to since" value={since} choose={sinceChanged} />
</label>
{#if accounts.length}
  <div class="mb-2 flex items-center gap-4">
    <label class="flex items-center gap-2 text-xs">
      <input
        type="checkbox"
        class="checkbox checkbox-sm"
        checked={together.length > 0 && together.every(({ account }) => picked.has(account))}
        disabled={together.length === 0}
        onchange={(event) => pickAll(event.currentTarget.checked)}
      />
      all {count(together.length)} that can go{#if open.length > together.length}, but for {count(
          open.length - together.length,
        )} with a balance{/if}
    </label>
    <button
      class="btn btn-sm btn-primary"
      disabled={wanted.length === 0}
      onclick={() => stage(wanted)}>Stage {plural(wanted.length, 'account')}</button
    >
  </div>
  <table class="ledger">
    <thead>
      <tr>
        <th></th><th>Code</th><th>Name</th><th>Last posted</th><th class="num">Lines</th>
        <th class="num">Balance</th><th>Used by</th><th>Can be</th><th>Why</th>
      </tr>
    </thead>
    <tbody>
      {#each accounts as unused (unused.account)}
        {@const row = books.byId.get(unused.account)}
        {@const settled = isUnusedSettled(books, unused)}
        <tr>
          <td>
            <input
              type="checkbox"
              class="checkbox checkbox-sm"
              aria-label="Pick {row?.code} {row?.name}"
              checked={settled || picked.has(unused.account)}
              disabled={settled || !unused.fate}
              onchange={() =>
                picked.has(unused.account)
                  ? picked.delete(unused.account)
                  : picked.add(unused.account)}
            />
          </td>
          <td class="font-medium">
            <button class="link" onclick={() => show(unused.account)}>{row?.code}</button>
          </td>
          <td>{row?.name}</td>
          <td class="text-soft whitespace-nowrap"
            >{unused.last_posted ? shortDate(unused.last_posted, null) : 'never'}</td
          >
          <td class="num">{count(unused.lines)}</td>
          <td class="num">
            <Balance amount={unused.balance} account={unused.account} />
          </td>
          <td class="text-soft" title={unused.uses.join('\n')}
            >{unused.uses.length ? plural(unused.uses.length, 'use') : '–'}</td
          >
          <td class="whitespace-nowrap">
            {#if settled}<b class="text-primary text-xs font-semibold">staged</b>
            {:else if unused.fate}{WORDS[unused.fate.fate]}d
            {:else}<span class="text-soft">stays</span>{/if}
          </td>
          <td class="hint max-w-md leading-snug">{unused.reasons.join(' ')}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{:else}
  <p class="text-soft py-4">Every account is in use.</p>
{/if}
