// The statement items, as they are now, and what is done to them.
import { Attempt } from '../api/attempt.svelte';
import { api, answer, type Schemas } from '../api/client';
import { InOrder } from '../api/sequence';
import type { BooksState } from '../books.svelte';

export type Item = Schemas['ItemView'];
export type ItemEdit = Schemas['ItemEdit'];
export type ItemListView = Schemas['ItemListView'];
type Class = Schemas['Class'];

export function sameOperand(a: Schemas['Operand'], b: Schemas['Operand']): boolean {
  return 'class' in a ? 'class' in b && a.class === b.class : 'item' in b && a.item === b.item;
}

export class ItemsState {
  classes = $state.raw<Schemas['ItemsOfClassView'][] | null>(null);
  readonly attempt = new Attempt();
  /** What was done last, in words. */
  done = $state('');
  readonly books: BooksState;
  readonly #changes = new InOrder();

  /** How many more accounts stand under each item once the plan is applied. */
  readonly staged = $derived.by(() => {
    const more = new Map<number, number>();
    const add = (item: number | null | undefined, by: number) => {
      if (item != null) more.set(item, (more.get(item) ?? 0) + by);
    };
    for (const [account, target] of this.books.staged) {
      const to = target.get('caption');
      if (to === undefined) continue;
      add(this.books.byId.get(account)?.caption, -1);
      add(to, 1);
    }
    return more;
  });

  constructor(books: BooksState) {
    this.books = books;
  }

  #path() {
    return { params: { path: { books: this.books.id } } };
  }

  async #during(work: () => Promise<void>): Promise<void> {
    this.attempt.clear();
    this.done = '';
    await this.#changes.run(() => this.attempt.run(work));
  }

  load(): Promise<void> {
    return this.#during(async () => {
      this.classes = (await answer(api.GET('/api/books/{books}/items', this.#path()))).classes;
    });
  }

  /** The items of a class that accounts can be put under. */
  open(of: Class): Item[] {
    const own = this.classes?.find((one) => one.class === of);
    return own?.items.filter((item) => !item.retired && item.kind === 'item') ?? [];
  }

  async #change(edits: ItemEdit[]): Promise<void> {
    const body = { edits };
    const path = this.#path();
    this.classes = (await answer(api.POST('/api/books/{books}/items', { ...path, body }))).classes;
    await this.books.load();
  }

  change(edit: ItemEdit): Promise<void> {
    return this.#during(() => this.#change([edit]));
  }

  /** Puts an item before or behind its neighbour. */
  move(of: Class, item: Item, by: -1 | 1): Promise<void> {
    const all = this.classes?.find((one) => one.class === of)?.items ?? [];
    const at = all.findIndex(({ id }) => id === item.id);
    if (at + by < 0 || at + by >= all.length) return Promise.resolve();
    const before = all[by < 0 ? at - 1 : at + 2]?.id ?? null;
    return this.change({ do: 'move', item: item.id, before });
  }

  /** Stages that the accounts of an item go to another. */
  merge(item: Item, into: Item): Promise<void> {
    return this.#during(async () => {
      await this.books.mergeItems([{ item: item.id, into: into.id }]);
      this.done = `“${item.name}” goes into “${into.name}” once the plan is applied.`;
    });
  }

  /** What a list in a file asks for; nothing is changed yet. */
  async read(file: File): Promise<ItemListView | null> {
    let asked: ItemListView | null = null;
    await this.#during(async () => {
      const form = new FormData();
      form.set('file', file);
      asked = await answer(
        api.POST('/api/books/{books}/items/list', {
          ...this.#path(),
          body: form as never,
          bodySerializer: (body) => body,
        }),
      );
    });
    return asked;
  }

  /** Does what a list asks for. */
  follow(asked: ItemListView): Promise<void> {
    return this.#during(async () => {
      if (asked.edits.length) await this.#change(asked.edits);
      if (asked.merges.length) await this.books.mergeItems(asked.merges);
      this.done = 'The items are as the list says.';
    });
  }

  /** What an item can be calculated from, or it itself when it is calculated: all but ratios. */
  operands(but: number | null): [string, Schemas['Operand']][] {
    return (this.classes ?? []).flatMap((one) => {
      const items = one.items.filter(
        ({ id, kind, retired }) => !retired && kind !== 'ratio' && id !== but,
      );
      const whole: [string, Schemas['Operand']] = [
        `Total ${one.title.toLowerCase()}`,
        { class: one.class },
      ];
      return [
        whole,
        ...items.map(({ id, name }): [string, Schemas['Operand']] => [name, { item: id }]),
      ];
    });
  }

  /** What a calculated item says of itself. */
  calculated({ kind, terms }: Item): string {
    const name = (of: Schemas['Operand']) =>
      this.operands(null).find(([, own]) => sameOperand(own, of))?.[0] ?? 'a retired item';
    const [first, ...rest] = terms.map(({ of, taken_off }) => [name(of), taken_off] as const);
    if (!first) return '';
    if (kind === 'ratio') return `${first[0]} in % of ${rest[0]?.[0] ?? ''}`;
    const begin = first[1] ? `less ${first[0]}` : first[0];
    return [begin, ...rest.map(([name, off]) => `${off ? 'less' : 'and'} ${name}`)].join(' ');
  }

  name(id: number): string {
    const all = this.classes?.flatMap((one) => one.items);
    return all?.find((item) => item.id === id)?.name ?? '';
  }
}
