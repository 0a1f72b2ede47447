// What can be done with the open plan from anywhere.
import type { BooksState } from '../books.svelte';
import type { Command, CommandGroup } from '../commands/commands.svelte';

/** Undoes one's latest change of the open plan. */
export const undo = (books: BooksState): Command => ({
  name: 'Undo your latest change',
  keys: ['Ctrl Z'],
  cannot: () => (books.steps.undo ? '' : 'nothing to undo'),
  run: () => books.step(),
});

/** Does again what was undone last. */
export const redo = (books: BooksState): Command => ({
  name: 'Redo what was undone',
  keys: ['Ctrl Y', 'Ctrl Shift Z'],
  cannot: () => (books.steps.redo ? '' : 'nothing to redo'),
  run: () => books.step(true),
});

export const planCommands = (books: BooksState): CommandGroup => ({
  title: 'Plan',
  rank: 1,
  everywhere: true,
  commands: [undo(books), redo(books)],
});
