// What is marked on a statement, to be merged: items of it, or accounts on them.
import { SvelteMap, SvelteSet } from 'svelte/reactivity';
import type { Schemas } from '../api/client';

export interface MarkedItem {
  item: number;
  of: Schemas['Class'];
  label: string;
  amounts: string[];
}

export class Marks {
  readonly items = new SvelteMap<number, MarkedItem>();
  readonly accounts = new SvelteSet<number>();

  hasItem = (item: number): boolean => this.items.has(item);
  hasAccount = (account: number): boolean => this.accounts.has(account);

  toggleItem(marked: MarkedItem): void {
    if (!this.items.delete(marked.item)) this.items.set(marked.item, marked);
  }

  toggleAccount(account: number): void {
    if (!this.accounts.delete(account)) this.accounts.add(account);
  }

  clear(): void {
    this.items.clear();
    this.accounts.clear();
  }

  /** Why what is marked cannot be merged as it is; empty when it can. */
  readonly inTheWay = $derived.by(() => {
    if (this.items.size && this.accounts.size) return 'Mark items, or accounts, not both.';
    if (this.items.size + this.accounts.size === 1) return 'Mark another to merge them.';
    const classes = new Set([...this.items.values()].map(({ of }) => of));
    return classes.size > 1 ? 'Items of two classes are not merged.' : '';
  });
}
