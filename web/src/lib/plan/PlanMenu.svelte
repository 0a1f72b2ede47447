<!-- Which plan is open; begins, renames and discards drafts. -->
<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { getBooks } from '../books.svelte';
  import Dialog from '../ui/Dialog.svelte';
  import Menu from '../ui/Menu.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  const books = getBooks();
  let asked = $state<'begin' | 'rename' | 'discard' | null>(null);
  let name = $state('');
  const actions = $derived([
    ['begin', 'Begin another plan…'] as const,
    ...(books.plan
      ? ([
          ['rename', 'Rename this plan…'],
          ['discard', 'Discard this plan…'],
        ] as const)
      : []),
  ]);
  const attempt = new Attempt();

  function ask(what: 'begin' | 'rename' | 'discard') {
    asked = what;
    name = what === 'rename' ? (books.plan?.name ?? '') : '';
    attempt.clear();
  }

  async function carryOut(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      if (asked === 'begin') await books.begin(name);
      else if (asked === 'rename') await books.rename(name);
      else await books.discard();
      asked = null;
    });
  }
</script>

<Menu side="top">
  {#snippet summary()}
    <b class="font-serif text-base font-semibold">{books.plan?.name ?? 'No plan'}</b>
    <span class="hint block">
      {#if books.saving}rehearsing…{:else if books.plan}rehearsed in {books.plan.took_ms} ms{:else}begin
        one{/if}
      ▾
    </span>
  {/snippet}
  {#each books.drafts as draft (draft.id)}
    <DropdownMenu.Item
      class="menu-row {draft.id === books.plan?.id ? 'text-primary font-semibold' : ''}"
      onSelect={() => books.open(draft.id)}
      >{draft.name}<span class="hint"
        >{draft.id === books.plan?.id ? books.staged.size : draft.accounts}</span
      ></DropdownMenu.Item
    >
  {/each}
  <DropdownMenu.Separator class="border-rule my-1 border-t" />
  {#each actions as [what, words] (what)}
    <DropdownMenu.Item class="menu-row" onSelect={() => ask(what)}>{words}</DropdownMenu.Item>
  {/each}
</Menu>

{#if asked}
  {@const titles = {
    begin: 'Begin a plan',
    rename: 'Rename the plan',
    discard: 'Discard the plan?',
  }}
  <Dialog title={titles[asked]} close={() => (asked = null)}>
    <form onsubmit={carryOut}>
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
        <button type="button" class="btn btn-quiet" onclick={() => (asked = null)}>Not now</button>
        <button class="btn btn-primary">{asked === 'discard' ? 'Discard' : 'Save'}</button>
      </div>
    </form>
  </Dialog>
{/if}
