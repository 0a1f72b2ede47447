<!-- What an administrator does about a person. -->
<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import type { Schemas } from '../api/client';
  import Menu from '../ui/Menu.svelte';

  let {
    person,
    administer,
    link,
    withoutFactor,
    remove,
  }: {
    person: Schemas['PersonView'];
    administer: () => void;
    link: () => void;
    withoutFactor: () => void;
    remove: () => void;
  } = $props();
</script>

<Menu align="end" width="w-72" label="More… about {person.name}" summaryClass="link">
  {#snippet summary()}More…{/snippet}
  <DropdownMenu.Item class="menu-row" onSelect={administer}
    >{person.administrator ? 'No longer administers' : 'Administers from now on'}</DropdownMenu.Item
  >
  <DropdownMenu.Item class="menu-row" onSelect={link}
    >Send a link for a new password</DropdownMenu.Item
  >
  {#if person.factor}
    <DropdownMenu.Item class="menu-row" onSelect={withoutFactor}
      >Ask for no second factor</DropdownMenu.Item
    >
  {/if}
  <DropdownMenu.Separator class="border-rule my-1 border-t" />
  <DropdownMenu.Item class="menu-row text-error" onSelect={remove}>Remove…</DropdownMenu.Item>
</Menu>
