<!-- How books end: archived, or deleted with all that is in them. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { type Schemas } from '../api/client';
  import { plural } from '../figures';
  import Asks from '../ui/Asks.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import Field from '../ui/Field.svelte';
  import Row from './Row.svelte';
  import { getSettings } from './settings.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { shown }: { shown: Schemas['SettingsView'] } = $props();
  const settings = getSettings();
  let deleting = $state(false);
  let name = $state('');
  const attempt = new Attempt();

  async function away() {
    await attempt.run(async () => {
      await settings.archive(!shown.archived);
    });
  }

  async function remove() {
    await settings.delete(name);
    await goto('/');
  }
</script>

<Row
  title="Archive"
  about="Nothing is changed in archived books; they can be looked at, exported, and restored."
>
  <button class="btn btn-sm btn-quiet" onclick={away}
    >{shown.archived ? 'Restore the books' : 'Archive the books'}</button
  >
  <Problem of={attempt} class="mt-2" />
</Row>
<Row title="Delete" about="For good, with every line, plan and proof.">
  <button class="btn btn-sm btn-quiet text-error" onclick={() => (deleting = true)}
    >Delete the books…</button
  >
</Row>
{#if deleting}
  <Dialog title="Delete {shown.name}?" close={() => (deleting = false)}>
    <Asks submit="Delete for good" act={remove}>
      <p>
        {plural(shown.lines, 'line')} and all plans and proofs are deleted, for everybody. What stays
        is a row in the security log: who, when, and the seal that the trail ended with.
      </p>
      <p>
        First export what you may need:
        <a class="link" href="/api/books/{settings.books.id}/exports/books.xml" download
          >the books as an audit file</a
        >,
        <a class="link" href="/api/books/{settings.books.id}/exports/journal.csv" download
          >the journal</a
        >,
        <a class="link" href="/api/books/{settings.books.id}/trail/trail.jsonl" download
          >the trail</a
        >.
      </p>
      <Field title="Type “{shown.name}”" required focus bind:value={name} />
    </Asks>
  </Dialog>
{/if}
