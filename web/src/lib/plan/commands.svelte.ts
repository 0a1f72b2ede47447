// What can be done with the open plan from anywhere.
import { createContext } from 'svelte';
import type { BooksState } from '../books.svelte';
import type { Command, CommandGroup } from '../commands/commands.svelte';
import { count } from '../figures';

/** What a dialog asks for before it is done. */
export type PlanQuestion = 'begin' | 'rename' | 'discard' | 'apply';

export class PlanCommands {
  readonly books: BooksState;
  /** The dialog that is open. */
  asked = $state<PlanQuestion | null>(null);
  readonly undo: Command;
  readonly redo: Command;
  readonly apply: Command;
  /** What the menu of plans offers. */
  readonly ofPlans: readonly Command[];
  readonly group: CommandGroup;

  constructor(books: BooksState) {
    this.books = books;
    const ask = (question: PlanQuestion) => () => (this.asked = question);
    const withoutPlan = () => this.#cannotStage() || (books.plan ? '' : 'no plan is open');
    this.undo = {
      name: 'Undo your latest change',
      keys: ['Ctrl Z'],
      cannot: () => (books.steps.undo ? '' : 'nothing to undo'),
      run: () => books.step(),
    };
    this.redo = {
      name: 'Redo what was undone',
      keys: ['Ctrl Y', 'Ctrl Shift Z'],
      cannot: () => (books.steps.redo ? '' : 'nothing to redo'),
      run: () => books.step(true),
    };
    this.apply = {
      name: 'Apply this plan…',
      words: 'execute',
      cannot: () => this.#cannotApply(),
      run: ask('apply'),
    };
    this.ofPlans = [
      {
        name: 'Begin a plan…',
        words: 'another new draft',
        cannot: () => this.#cannotStage(),
        run: ask('begin'),
      },
      { name: 'Rename this plan…', cannot: withoutPlan, run: ask('rename') },
      {
        name: 'Discard this plan…',
        words: 'delete drop',
        cannot: withoutPlan,
        run: ask('discard'),
      },
    ];
    this.group = {
      title: 'Plan',
      rank: 1,
      everywhere: true,
      commands: [this.undo, this.redo, this.apply, ...this.ofPlans],
    };
  }

  #cannotStage(): string {
    return this.books.may('stage') ? '' : 'your roles here do not change plans';
  }

  #cannotApply(): string {
    const { books } = this;
    const stops = books.stops.length;
    if (!books.may('apply')) return 'your roles here do not apply plans';
    if (books.changes === 0) return 'nothing is staged';
    if (stops > 0) return stops === 1 ? '1 stop is open' : `${count(stops)} stops are open`;
    return books.saving ? 'it is being rehearsed' : '';
  }
}

export const [getPlanCommands, setPlanCommands] = createContext<PlanCommands>();
