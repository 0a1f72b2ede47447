<!-- Accounts that take no more lines: what they still hold, and the way back. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import { count, shortDate } from '../figures';
  import { giveFate, unstage } from '../staging/edits';
  import Balance from '../journal/Balance.svelte';
  import type { Review } from './settled';

  let { accounts, show }: { accounts: Review['retired']; show: (account: number) => void } =
    $props();
  const books = getBooks();
</script>

{#if accounts.length}
  <p class="text-soft mb-3">
    They take no new lines and are left out wherever an account is picked. Archived ones still stand
    in the figures of the years in which they had amounts.
  </p>
  <table class="ledger">
    <thead>
      <tr>
        <th>Code</th><th>Name</th><th>Is</th><th>Last posted</th><th class="num">Lines</th>
        <th class="num amount">Balance</th><th></th>
      </tr>
    </thead>
    <tbody>
      {#each accounts as retired (retired.account)}
        {@const row = books.byId.get(retired.account)}
        {@const staged = books.seen(retired.account, 'fate')?.fate === 'restore'}
        <tr>
          <td class="font-medium">
            <button class="link" onclick={() => show(retired.account)}>{row?.code}</button>
          </td>
          <td>{row?.name}</td>
          <td class="text-soft">{retired.status}</td>
          <td class="text-soft"
            >{retired.last_posted ? shortDate(retired.last_posted, null) : 'never'}</td
          >
          <td class="num">{count(retired.lines)}</td>
          <td class="num"><Balance amount={retired.balance} account={retired.account} /></td>
          <td class="num">
            <button
              class="btn btn-xs btn-quiet"
              onclick={() =>
                books.edit([
                  staged
                    ? unstage(retired.account, 'fate')
                    : giveFate(retired.account, { fate: 'restore' }),
                ])}>{staged ? 'Leave it retired' : 'Restore'}</button
            >
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
{:else}
  <p class="text-soft py-4">No account is deactivated or archived.</p>
{/if}
