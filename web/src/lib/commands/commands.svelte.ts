// What can be done, and by which key: the one registry that keys, buttons, menus, help and the search by name read.
import { createContext, onMount } from 'svelte';
import { isTyping, keyOf } from './keys';

export interface Command {
  /** What it is called, as a button says it. */
  name: string;
  /** The keys that do it, the usual one first. */
  keys?: readonly string[];
  /** Other words that people look for. */
  words?: string;
  /** Why it cannot be done now; empty where it can. */
  cannot?: () => string;
  run: () => unknown;
}

/** Commands that belong together. */
export interface CommandGroup {
  title: string;
  /** How far from what one is at: 0 of the page that is shown, the highest stand last. */
  rank: number;
  /** Whether their keys work wherever nobody types, and not only where the focus is. */
  everywhere?: boolean;
  commands: readonly Command[];
  /** What keys do that are no command: moving, typing. */
  notes?: readonly (readonly [keys: string, what: string])[];
}

/** The command that a key stands for. */
export function commandOf(commands: readonly Command[], event: KeyboardEvent): Command | undefined {
  const key = keyOf(event);
  return commands.find((command) => command.keys?.includes(key));
}

/** Does what a key stands for; answers whether it stands for anything. */
export async function press(commands: readonly Command[], event: KeyboardEvent): Promise<boolean> {
  const command = commandOf(commands, event);
  if (!command) return false;
  event.preventDefault();
  if (!command.cannot?.()) await command.run();
  return true;
}

export class CommandsState {
  /** What can be done where one is, in the order in which it was offered. */
  groups = $state.raw<readonly CommandGroup[]>([]);
  /** Whether all of it is listed, to be searched. */
  open = $state(false);

  /** Keys that work everywhere; a page that took one says so by preventing what it does otherwise. */
  async key(event: KeyboardEvent): Promise<void> {
    if (event.defaultPrevented || (isTyping(event) && keyOf(event) !== 'Ctrl K')) return;
    const everywhere = this.groups.filter((group) => group.everywhere);
    await press(
      everywhere.flatMap((group) => group.commands),
      event,
    );
  }

  /** Offers commands for as long as who offers them is there. Called while a component begins. */
  offer(group: CommandGroup): void {
    onMount(() => {
      this.groups = [...this.groups, group];
      return () => (this.groups = this.groups.filter((other) => other !== group));
    });
  }
}

export const [getCommands, setCommands] = createContext<CommandsState>();
