// What is staged in a plan, and edits of it.
import type { Schemas } from '../api/client';

export type Field = Schemas['Field'];
export type Change = Schemas['Change'];
/** What is wanted of a field, as a person says it. */
export type Wanted = Schemas['WantedForm'];
export type Fate = Schemas['Fate'];

/** What a field can be given. */
export type Value<F extends Field> = Extract<Change, { field: F }>['value'];

/** An edit of one field of an account. */
export interface Edit {
  account: number;
  wanted: Wanted;
}

export const stage = (account: number, change: Change): Edit => ({
  account,
  wanted: { stage: change },
});

export const unstage = (account: number, field: Field): Edit => ({
  account,
  wanted: { unstage: field },
});

export const giveFate = (account: number, fate: Fate): Edit =>
  stage(account, { field: 'fate', value: fate });

export const mergeInto = (account: number, survivor: number): Edit =>
  giveFate(account, { fate: 'merge_into', into: survivor });

/** The edit after which just this is staged in a field; nothing when there is no change. */
export const become = (account: number, field: Field, change?: Change | null): Edit =>
  change ? stage(account, change) : unstage(account, field);

/** Unstages all that is staged of an account; one that the plan adds goes whole with its fate. */
export function unstageAll(account: number, target: Target | undefined): Edit[] {
  const fields = target?.get('fate')?.fate === 'add' ? (['fate'] as const) : (target?.fields ?? []);
  return fields.map((field) => unstage(account, field));
}

/** The edit that merges an account into the one whose code was typed. */
export const mergeIntoTyped = (account: number, code: string): Edit => ({
  account,
  wanted: { merge_into: code },
});

/** The edit that gives an account a code counted on from another. */
export const countOn = (account: number, code: string, by: number): Edit => ({
  account,
  wanted: { count_on: { code, by } },
});

export function fieldOf(wanted: Wanted): Field {
  if ('stage' in wanted) return wanted.stage.field;
  if ('count_on' in wanted) return 'code';
  return 'merge_into' in wanted ? 'fate' : wanted.unstage;
}

/** Whether two changes are the same; none is like none. */
export const same = (one?: Change | null, other?: Change | null): boolean =>
  JSON.stringify(one ?? null) === JSON.stringify(other ?? null);

/** Where an account goes that is merged. */
export const survivorOf = (fate?: Fate | null): number | null =>
  fate?.fate === 'merge_into' ? fate.into : null;

/** What is staged of one account. */
export class Target {
  readonly #changes = new Map<Field, Change>();

  put(change: Change): void {
    this.#changes.set(change.field, change);
  }

  change(field: Field): Change | undefined {
    return this.#changes.get(field);
  }

  get<F extends Field>(field: F): Value<F> | undefined {
    return this.#changes.get(field)?.value as Value<F> | undefined;
  }

  has(field: Field): boolean {
    return this.#changes.has(field);
  }

  get fields(): Field[] {
    return [...this.#changes.keys()];
  }
}
