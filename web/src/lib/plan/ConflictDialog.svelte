<!-- Somebody else was first: mine, theirs and today, and a choice for each field. -->
<script lang="ts">
  import { getBooks, type Conflict } from '../books.svelte';
  import { become } from '../staging/edits';
  import Dialog from '../ui/Dialog.svelte';

  const books = getBooks();
  const shown = (value: string | null | undefined) => value ?? 'as it is today';

  function settle(conflict: Conflict) {
    books.conflicts = books.conflicts.filter((other) => other !== conflict);
  }

  async function useMine(conflict: Conflict) {
    settle(conflict);
    await books.edit([become(conflict.account, conflict.field, conflict.mine)]);
  }
</script>

<Dialog title="Somebody else changed this too" close={() => (books.conflicts = [])} wide>
  <p class="mb-3">Nothing was overwritten. Choose what the plan should say.</p>
  <table class="ledger">
    <thead>
      <tr><th>Account</th><th>Today</th><th>Theirs</th><th>Mine</th><th></th></tr>
    </thead>
    <tbody>
      {#each books.conflicts as conflict (`${conflict.account} ${conflict.field}`)}
        <tr>
          <td>{books.label(conflict.account)}<span class="hint block">{conflict.field}</span></td>
          <td>{conflict.texts.today ?? '–'}</td>
          <td>{shown(conflict.texts.theirs)}<span class="hint block">{conflict.by ?? ''}</span></td>
          <td>{shown(conflict.texts.mine)}</td>
          <td class="num">
            <button class="btn btn-sm btn-quiet" onclick={() => settle(conflict)}
              >Keep theirs</button
            >
            <button class="btn btn-sm btn-primary" onclick={() => useMine(conflict)}
              >Use mine</button
            >
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
</Dialog>
