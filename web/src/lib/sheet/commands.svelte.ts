// What can be done on the sheet, and by which key.
import { goto } from '$app/navigation';
import { page } from '$app/state';
import { createContext } from 'svelte';
import { press, type Command, type CommandGroup } from '../commands/commands.svelte';
import { keyOf } from '../commands/keys';
import type { RowAction, SheetState } from './sheet.svelte';

/** The keys that move the cursor, by how far. */
const MOVES: Record<string, readonly [rows: number, columns: number]> = {
  '↑': [-1, 0],
  '↓': [1, 0],
  '←': [0, -1],
  '→': [0, 1],
  PageUp: [-20, 0],
  PageDown: [20, 0],
};

export class SheetCommands {
  readonly sheet: SheetState;
  /** What can be done with the selected rows; in the column What happens each has a letter. */
  readonly ofRows: CommandGroup;
  readonly ofSheet: CommandGroup;
  readonly add: Command;

  constructor(sheet: SheetState) {
    this.sheet = sheet;
    const here = this.#isHere;
    const action = (key: string, action: RowAction, name: string): Command => ({
      name,
      keys: [key],
      cannot: this.#cannotStage,
      run: () => sheet.do(action),
    });
    this.ofRows = {
      title: 'Selected rows, by a letter in the column What happens',
      get rank() {
        return here() ? 0 : 3;
      },
      commands: [
        action('m', 'merge', 'Merge into another account…'),
        action('h', 'history', 'Move its history, or a part of it…'),
        action('n', 'renumber', 'Renumber by a rule…'),
        action('g', 'regroup', 'Put under another heading…'),
        action('s', 'sort', 'Change class or item…'),
        action('d', 'deactivate', 'Deactivate: no new lines, still on reports…'),
        action('a', 'archive', 'Archive: out of sight as well…'),
        action('r', 'restore', 'Restore: active again'),
        action('x', 'delete', 'Delete: only what was never used'),
        { ...action('Del', 'clear', 'Leave as it is: undo all that is staged'), words: 'clear' },
      ],
    };
    this.add = {
      name: 'Add an account or heading…',
      keys: ['+'],
      words: 'new',
      cannot: () => this.#cannotPrepare(),
      run: async () => {
        if (!this.#isHere()) await goto(`/books/${sheet.books.id}/chart`);
        sheet.asked = 'add';
      },
    };
    this.ofSheet = {
      title: 'Chart',
      get rank() {
        return here() ? 0 : 3;
      },
      commands: [
        this.add,
        this.#onSheet('Edit the cell, or choose what becomes of the row', ['Enter', 'F2'], () =>
          sheet.begin(),
        ),
        this.#onSheet('Fill down; codes count on', ['Ctrl D'], () => sheet.fillDown()),
        this.#onSheet('Undo what is staged in the cell', ['Del', 'Backspace'], () => sheet.clear()),
        this.#onSheet(
          'Open the account’s card; on a heading open or close it',
          ['Space'],
          () => sheet.showOrFold(),
          'details',
        ),
        this.#onSheet('Select all rows', ['Ctrl A'], () => sheet.selectAll()),
        this.#onSheet('Go to the first row', ['Ctrl Home'], () => sheet.go(0, 0)),
        this.#onSheet('Go to the last row', ['Ctrl End'], () => sheet.go(sheet.rows.length - 1)),
        this.#onSheet('Show only what changes, or everything', [], () => {
          sheet.changesOnly = !sheet.changesOnly;
        }),
        this.#onSheet(
          'Show or hide retired accounts',
          [],
          () => void (sheet.showRetired = !sheet.showRetired),
          'deactivated archived',
        ),
        this.#onSheet('Show every row: no filter', [], () => sheet.showAll()),
        this.#onSheet('Close the card; leave the selection', ['Esc'], () => sheet.escape()),
      ],
      notes: [
        ['↑ ↓ ← →', 'move on the After side; with Shift select rows'],
        ['letters', 'on Code and Name: type over; “into 5010” as a code merges into 5010'],
        ['Ctrl C, Ctrl V', 'copy codes and names; paste a block from a spreadsheet'],
      ],
    };
  }

  /** A key on the sheet: it moves, does something, or begins to type. */
  async key(event: KeyboardEvent): Promise<void> {
    const { sheet } = this;
    const move = MOVES[keyOf(event).replace('Shift ', '')];
    if (move) {
      event.preventDefault();
      const { row, column } = sheet.cursor;
      sheet.go(row + move[0], column + move[1], event.shiftKey);
      return;
    }
    if (await press(this.ofSheet.commands, event)) return;
    if (event.ctrlKey || event.metaKey || event.altKey || event.key.length !== 1) return;
    if (event.key === '/' || event.key === '?') return;
    if (sheet.column === 'fate') {
      await press(this.ofRows.commands, event);
      return;
    }
    event.preventDefault();
    sheet.begin(event.key);
  }

  #onSheet(name: string, keys: string[], run: () => unknown, words = ''): Command {
    const cannot = () => (this.#isHere() ? '' : 'on the Chart');
    return { name, keys, words, cannot, run };
  }

  readonly #isHere = () => page.url.pathname.endsWith('/chart');
  readonly #cannotPrepare = () =>
    this.sheet.books.may('stage') ? '' : 'for those who prepare changes';
  readonly #cannotStage = () =>
    this.#cannotPrepare() ||
    (this.#isHere() ? '' : 'select rows on the Chart first') ||
    (this.sheet.current ? '' : 'no row is selected');
}

export const [getSheetCommands, setSheetCommands] = createContext<SheetCommands>();
