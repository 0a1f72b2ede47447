<!-- An amount of an account that opens the entries that make it up. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import { isZero } from '../figures';
  import Money from '../ui/Money.svelte';
  import { journal } from './address';

  let {
    amount,
    account,
    of,
    from = null,
    to = null,
    reach = true,
  }: {
    amount: string;
    account: number;
    /** What the account is called. */
    of: string;
    from?: string | null;
    to?: string | null;
    /** Whether Tab reaches it. */
    reach?: boolean;
  } = $props();

  const books = getBooks();
</script>

{#if isZero(amount)}<Money {amount} />
{:else}<a
    class="hover:underline"
    tabindex={reach ? undefined : -1}
    href={journal(books.id, { account, from, to })}
    title="The entries of {of} that make it up"><Money {amount} /></a
  >{/if}
