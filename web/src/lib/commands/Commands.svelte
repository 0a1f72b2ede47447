<!-- All that can be done where one is, with its keys; found by typing its name and done by Enter. -->
<script lang="ts">
  import { Combobox } from 'bits-ui';
  import { tick } from 'svelte';
  import Dialog from '../ui/Dialog.svelte';
  import { matchesName, wordsOf } from '../ui/matches';
  import { getCommands, type Command, type CommandGroup } from './commands.svelte';

  const commands = getCommands();
  let text = $state('');
  const words = $derived(wordsOf(text));
  const has = (group: CommandGroup, ...texts: (string | undefined)[]) =>
    !words.length || matchesName([group.title, ...texts].join(' '), words);
  const found = $derived(
    [...commands.groups]
      .sort((one, other) => one.rank - other.rank)
      .map((group) => ({
        title: group.title,
        commands: group.commands.filter((one) => has(group, one.name, one.words)),
        notes: (group.notes ?? []).filter(([keys, what]) => has(group, keys, what)),
      }))
      .filter((group) => group.commands.length + group.notes.length > 0),
  );
  const all = $derived(found.flatMap((group) => group.commands));
  const place = (command: Command) => String(all.indexOf(command));

  async function chosen(at: string) {
    const command = all[Number(at)];
    if (!command) return;
    commands.open = false;
    // The dialog gives the focus back before the command takes it.
    await tick();
    await command.run();
  }

  function focus(input: HTMLElement) {
    input.focus();
  }
</script>

{#snippet keys(names: readonly string[])}
  <span class="shrink-0">
    {#each names as name (name)}<kbd class="kbd kbd-xs ml-1">{name}</kbd>{/each}
  </span>
{/snippet}

<Dialog title="What can be done here" close={() => (commands.open = false)} wide>
  <Combobox.Root type="single" open onValueChange={chosen}>
    <Combobox.Input
      class="input w-full"
      aria-label="Find a command by its name"
      placeholder="Type what you want to do"
      oninput={(event) => (text = event.currentTarget.value)}
      {@attach focus}
    />
    <Combobox.ContentStatic
      aria-label="Commands"
      class="mt-2 max-h-[58vh] min-h-56 overflow-auto"
      escapeKeydownBehavior="ignore"
      interactOutsideBehavior="ignore"
    >
      {#each found as group (group.title)}
        <Combobox.Group>
          <Combobox.GroupHeading class="text-soft px-2 pt-3 pb-1 font-serif text-[15px]"
            >{group.title}</Combobox.GroupHeading
          >
          {#each group.commands as command (command.name)}
            {@const cannot = command.cannot?.()}
            <Combobox.Item
              value={place(command)}
              label={command.name}
              disabled={Boolean(cannot)}
              class="data-highlighted:bg-plum-wash flex cursor-pointer items-baseline gap-3 rounded px-2 py-1 data-disabled:cursor-default"
            >
              <span class={['grow', cannot && 'text-soft']}>{command.name}</span>
              {#if cannot}<span class="hint shrink-0">{cannot}</span>{/if}
              {@render keys(command.keys ?? [])}
            </Combobox.Item>
          {/each}
          {#each group.notes as [names, what] (names)}
            <p class="text-soft flex items-baseline gap-3 px-2 py-1">
              <span class="grow">{what}</span>{@render keys(names.split(', '))}
            </p>
          {/each}
        </Combobox.Group>
      {:else}
        <p class="text-soft px-2 py-3">Nothing that can be done here is called so.</p>
      {/each}
    </Combobox.ContentStatic>
  </Combobox.Root>
</Dialog>
