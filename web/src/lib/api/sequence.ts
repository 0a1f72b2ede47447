// What one person asks for is done in the order in which it was asked for, one thing at a time.

export class InOrder {
  #last: Promise<unknown> = Promise.resolve();

  /** Does it once everything before it was done, or failed. */
  run<T>(act: () => Promise<T>): Promise<T> {
    const next = this.#last.then(act, act);
    this.#last = next.catch(() => undefined);
    return next;
  }
}
