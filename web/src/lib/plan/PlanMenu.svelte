<!-- Which plan is open, which others there are, and what can be done with plans. -->
<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import Menu from '../ui/Menu.svelte';
  import { getPlanCommands } from './commands.svelte';

  const plans = getPlanCommands();
  const books = plans.books;
  const offered = $derived(plans.ofPlans.filter((command) => !command.cannot?.()));
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
  {#if books.drafts.length}<DropdownMenu.Separator class="border-rule my-1 border-t" />{/if}
  {#each offered as command (command.name)}
    <DropdownMenu.Item class="menu-row" onSelect={() => command.run()}
      >{command.name}</DropdownMenu.Item
    >
  {/each}
</Menu>
