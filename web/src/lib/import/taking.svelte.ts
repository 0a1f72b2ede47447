// What is taken of a chart that stands beside that of the books.
import { SvelteSet } from 'svelte/reactivity';
import type { Schemas } from '../api/client';

type Missing = '' | Schemas['Retiring'];

export class Taking {
  new = $state(true);
  changed = $state(true);
  /** What becomes of accounts that the file does not have; empty to leave them. */
  missing = $state<Missing>('');
  readonly withoutRows = new SvelteSet<number>();
  readonly withoutAccounts = new SvelteSet<number>();

  /** How many accounts would be touched. */
  count(comparison: Schemas['ComparisonView']): number {
    const left = (rows: { row: number }[]) =>
      rows.filter(({ row }) => this.withoutRows.has(row)).length;
    const { new_rows, changed_rows, missing_rows } = comparison;
    return (
      (this.new ? new_rows - left(comparison.new) : 0) +
      (this.changed ? changed_rows - left(comparison.changed) : 0) +
      (this.missing ? missing_rows - this.withoutAccounts.size : 0)
    );
  }

  form() {
    return {
      new: this.new,
      changed: this.changed,
      missing: this.missing || null,
      without_rows: [...this.withoutRows],
      without_accounts: [...this.withoutAccounts],
    };
  }
}
