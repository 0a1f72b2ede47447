// What is tried, and why it failed: the one way in which dialogs, forms and tables say so.
import { sentence } from './client';

/** Something that may fail. Why it failed the last time is shown by `Problem`. */
export class Attempt {
  problem = $state('');
  busy = $state(false);

  /** Tries it. Why it fails is kept until it is tried again. */
  async run(act: () => Promise<unknown>): Promise<void> {
    this.busy = true;
    this.problem = '';
    try {
      await act();
    } catch (error) {
      this.problem = sentence(error);
    } finally {
      this.busy = false;
    }
  }

  /** Forgets why it failed. */
  clear(): void {
    this.problem = '';
  }
}
