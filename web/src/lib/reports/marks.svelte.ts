// What is marked on a statement, to be merged: lines of it, or accounts on them.
import { SvelteMap, SvelteSet } from 'svelte/reactivity';
import type { Schemas } from '../api/client';

export interface MarkedLine {
  line: number;
  of: Schemas['Class'];
  label: string;
  amounts: string[];
}

export class Marks {
  readonly lines = new SvelteMap<number, MarkedLine>();
  readonly accounts = new SvelteSet<number>();

  hasLine = (line: number): boolean => this.lines.has(line);
  hasAccount = (account: number): boolean => this.accounts.has(account);

  toggleLine(marked: MarkedLine): void {
    if (!this.lines.delete(marked.line)) this.lines.set(marked.line, marked);
  }

  toggleAccount(account: number): void {
    if (!this.accounts.delete(account)) this.accounts.add(account);
  }

  clear(): void {
    this.lines.clear();
    this.accounts.clear();
  }

  /** Why what is marked cannot be merged as it is; empty when it can. */
  readonly inTheWay = $derived.by(() => {
    if (this.lines.size && this.accounts.size) return 'Mark lines, or accounts, not both.';
    if (this.lines.size + this.accounts.size === 1) return 'Mark another to merge them.';
    const classes = new Set([...this.lines.values()].map(({ of }) => of));
    return classes.size > 1 ? 'Lines of two classes are not merged.' : '';
  });
}
