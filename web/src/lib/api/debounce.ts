// Asking a server while somebody types: not for every key, and only the latest answer counts.

/** How long typing rests before it is asked what it does, in milliseconds. */
const REST = 200;

export class Asking {
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
}
