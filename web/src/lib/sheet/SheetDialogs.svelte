<!-- The dialogs that ask what an action on the selected rows needs. -->
<script lang="ts">
  import type { Row } from '../books.svelte';
  import { plural } from '../figures';
  import { press } from '../commands/commands.svelte';
  import KeyOf from '../commands/KeyOf.svelte';
  import { stage } from '../staging/edits';
  import Dialog from '../ui/Dialog.svelte';
  import Picker from '../ui/Picker.svelte';
  import AddRow from './AddRow.svelte';
  import Retire from './Retire.svelte';
  import Sort from './Sort.svelte';
  import { getSheetCommands } from './commands.svelte';
  import { getSheet } from './sheet.svelte';

  const sheet = getSheet();
  const commands = getSheetCommands();
  const books = sheet.books;
  const close = () => (sheet.asked = null);
  const selected = $derived(sheet.selected);
  const whom = $derived(
    selected.length === 1
      ? `${selected[0]?.code} ${selected[0]?.name}`
      : plural(selected.length, 'row'),
  );
  const chosen = $derived(new Set(selected.map((row) => row.id)));
  const survivors = $derived(
    sheet.all.filter((row) => row.kind === 'account' && !chosen.has(row.id)),
  );

  /** Why nothing can be merged into a row, as the plan leaves it; empty where it can. */
  function unfit(row: Row): string {
    const fate = books.seen(row.id, 'fate');
    switch (fate?.fate) {
      case 'merge_into':
        return 'is merged itself';
      case 'delete':
        return 'is to be deleted';
      case 'deactivate':
        return 'is to be deactivated';
      case 'archive':
        return 'is to be archived';
      case 'restore':
        return '';
    }
    return row.status === 'active' ? '' : `${row.status}; restore it first`;
  }
  const headings = $derived(
    sheet.all.filter((row) => row.kind === 'heading' && !chosen.has(row.id)),
  );

  async function merge(survivor: { id: number }) {
    close();
    await sheet.sideBySide(survivor.id);
  }

  async function regroup(parent: number | null) {
    close();
    await sheet.stage(selected.map((row) => stage(row.id, { field: 'parent', value: parent })));
  }

  async function retire(day: string) {
    close();
    await sheet.fate({ fate: sheet.retiring, from: day });
  }

  // The letter is not typed into what opens.
  const menuKey = (event: KeyboardEvent) => void press(commands.ofRows.commands, event);
</script>

{#if sheet.asked === 'fates'}
  <Dialog title="What becomes of {whom}?" {close}>
    <ul role="menu" onkeydown={menuKey}>
      {#each commands.ofRows.commands as command (command.name)}
        <li role="none">
          <button
            role="menuitem"
            class="hover:bg-plum-wash focus:bg-plum-wash flex w-full cursor-pointer items-center gap-3 rounded px-2 py-1.5 text-left"
            onclick={command.run}
          >
            <span class="min-w-6 text-center"><KeyOf of={command} /></span>{command.name}
          </button>
        </li>
      {/each}
    </ul>
  </Dialog>
{:else if sheet.asked === 'merge'}
  <Dialog title="Merge {whom} into" {close}>
    <Picker rows={survivors} label="Account that stays" choose={merge} {unfit} />
    <p class="hint mt-2">Its lines are not rewritten; they keep the code they were posted under.</p>
  </Dialog>
{:else if sheet.asked === 'regroup'}
  <Dialog title="Put {whom} under" {close}>
    <Picker
      rows={headings}
      label="Heading"
      choose={(row) => regroup(row.id)}
      empty="No heading has this code or name."
    />
    <button class="btn btn-sm btn-quiet mt-2" onclick={() => regroup(null)}>Under no heading</button
    >
  </Dialog>
{:else if sheet.asked === 'sort'}
  <Sort {whom} />
{:else if sheet.asked === 'retire'}
  <Retire {whom} what={sheet.retiring} {close} {retire} />
{:else if sheet.asked === 'add'}
  <AddRow />
{/if}
