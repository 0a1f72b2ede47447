// Asking a server while somebody types: not for every key, and only the latest answer counts.
import { Attempt } from './attempt.svelte';

/** How long typing rests before it is asked what it does, in milliseconds. */
const REST = 200;

/** A question that is asked again and again. Why the latest failed is shown by `Problem`. */
export class Asking extends Attempt {
  #turn = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** Does it once typing rests, unless something newer begins before. */
  soon(act: () => void): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(act, REST);
  }

  /** Begins a question, or drops the one that is out; tells whether nothing newer has begun. */
  begin(): () => boolean {
    clearTimeout(this.#timer);
    const turn = ++this.#turn;
    return () => turn === this.#turn;
  }

  /** Asks, and shows what came of it unless something newer was asked meanwhile. */
  async latest<T>(ask: () => Promise<T>, show: (answered: T) => void): Promise<T | null> {
    const isLatest = this.begin();
    const asked = new Attempt();
    let answered: T | null = null;
    await asked.run(async () => {
      answered = await ask();
    });
    if (isLatest()) {
      this.problem = asked.problem;
      if (answered !== null) show(answered);
    }
    return answered;
  }
}
