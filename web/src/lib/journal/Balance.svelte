<!-- What an account stands at on the day of the books, which opens the entries that make it up. -->
<script lang="ts">
  import { getBooks } from '../books.svelte';
  import Figure from './Figure.svelte';

  let {
    amount,
    account,
    reach = true,
  }: { amount: string; account: number; reach?: boolean } = $props();

  const books = getBooks();
  const row = $derived(books.byId.get(account));
  const asOf = $derived(books.chart?.as_of);
  // Income and expenses stand at what their fiscal year has.
  const ofYear = $derived(row?.class === 'income' || row?.class === 'expense');
</script>

<Figure
  {amount}
  {account}
  of={row?.name ?? ''}
  from={ofYear ? asOf?.year_start : null}
  to={asOf?.date}
  {reach}
/>
