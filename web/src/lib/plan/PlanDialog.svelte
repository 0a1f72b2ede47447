<!-- Begins, renames or discards a plan. What is typed begins with what is, and stays while the plan is rehearsed. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { Attempt } from '../api/attempt.svelte';
  import { getBooks } from '../books.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import Problem from '../ui/Problem.svelte';
  import type { PlanQuestion } from './commands.svelte';

  const TITLES = {
    begin: 'Begin a plan',
    rename: 'Rename the plan',
    discard: 'Discard the plan?',
  };
  let { asked, close }: { asked: Exclude<PlanQuestion, 'apply'>; close: () => void } = $props();
  const books = getBooks();
  const attempt = new Attempt();
  let name = $state(untrack(() => (asked === 'rename' ? (books.plan?.name ?? '') : '')));

  async function save(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      if (asked === 'begin') await books.begin(name);
      else if (asked === 'rename') await books.rename(name);
      else await books.discard();
      close();
    });
  }
</script>

<Dialog title={TITLES[asked]} {close}>
  <form onsubmit={save}>
    {#if asked === 'discard'}
      <p>Everything staged in “{books.plan?.name}” is dropped. The books stay as they are.</p>
    {:else}
      <!-- svelte-ignore a11y_autofocus -->
      <input
        class="input w-full"
        aria-label="Name of the plan"
        required
        autofocus
        bind:value={name}
      />
    {/if}
    <Problem of={attempt} class="mt-2" />
    <div class="mt-4 flex justify-end gap-2">
      <button type="button" class="btn btn-quiet" onclick={close}>Not now</button>
      <button class="btn btn-primary">{asked === 'discard' ? 'Discard' : 'Save'}</button>
    </div>
  </form>
</Dialog>
