// How much of long lists is drawn: thousands of rows at once would hold a browser up.
import { SvelteMap } from 'svelte/reactivity';

/** How many rows are drawn at once. */
const STEP = 300;

export class Drawn {
  readonly #limits = new SvelteMap<string, number>();

  /** The rows of a list that are drawn. */
  of<T>(list: string, rows: T[]): T[] {
    return rows.slice(0, this.#limits.get(list) ?? STEP);
  }

  /** Draws the next ones of a list. */
  more(list: string): void {
    this.#limits.set(list, (this.#limits.get(list) ?? STEP) + STEP);
  }
}
