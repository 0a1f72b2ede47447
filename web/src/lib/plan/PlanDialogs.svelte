<!-- The dialogs of a plan: begins, renames, discards and applies it, from wherever that is asked. -->
<script lang="ts">
  import { beforeNavigate } from '$app/navigation';
  import { Attempt } from '../api/attempt.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import Problem from '../ui/Problem.svelte';
  import ApplyDialog from './ApplyDialog.svelte';
  import { getPlanCommands } from './commands.svelte';

  const TITLES = {
    begin: 'Begin a plan',
    rename: 'Rename the plan',
    discard: 'Discard the plan?',
  };
  const plans = getPlanCommands();
  const books = plans.books;
  const attempt = new Attempt();
  let name = $state('');

  $effect(() => {
    name = plans.asked === 'rename' ? (books.plan?.name ?? '') : '';
    attempt.clear();
  });

  const close = () => (plans.asked = null);
  // Whoever goes on to another page has not answered.
  beforeNavigate(close);

  async function carryOut(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      if (plans.asked === 'begin') await books.begin(name);
      else if (plans.asked === 'rename') await books.rename(name);
      else await books.discard();
      close();
    });
  }
</script>

{#if plans.asked === 'apply'}
  <ApplyDialog {close} />
{:else if plans.asked}
  <Dialog title={TITLES[plans.asked]} {close}>
    <form onsubmit={carryOut}>
      {#if plans.asked === 'discard'}
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
        <button class="btn btn-primary">{plans.asked === 'discard' ? 'Discard' : 'Save'}</button>
      </div>
    </form>
  </Dialog>
{/if}
