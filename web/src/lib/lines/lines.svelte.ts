// The lines of the statements, as they are now, and what is done to them.
import { api, answer, sentence, type Schemas } from '../api/client';
import { InOrder } from '../api/in_order';
import type { BooksState } from '../books.svelte';

export type Line = Schemas['OwnLine'];
export type LineEdit = Schemas['LineEdit'];
export type AskedOfLines = Schemas['AskedOfLines'];
type Class = Schemas['Class'];

export function sameOperand(a: Schemas['Operand'], b: Schemas['Operand']): boolean {
  return 'class' in a ? 'class' in b && a.class === b.class : 'line' in b && a.line === b.line;
}

export class LinesState {
  classes = $state.raw<Schemas['LinesOfClassView'][] | null>(null);
  problem = $state('');
  /** What was done last, in words. */
  done = $state('');
  readonly books: BooksState;
  readonly #changes = new InOrder();

  /** How many more accounts stand under each line once the plan is applied. */
  readonly staged = $derived.by(() => {
    const more = new Map<number, number>();
    const add = (line: number | null | undefined, by: number) => {
      if (line != null) more.set(line, (more.get(line) ?? 0) + by);
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
    this.problem = '';
    this.done = '';
    await this.#changes.run(async () => {
      try {
        await work();
      } catch (error) {
        this.problem = sentence(error);
      }
    });
  }

  load(): Promise<void> {
    return this.#during(async () => {
      this.classes = (await answer(api.GET('/api/books/{books}/lines', this.#path()))).classes;
    });
  }

  /** The lines of a class that accounts can be put under. */
  open(of: Class): Line[] {
    const own = this.classes?.find((one) => one.class === of);
    return own?.lines.filter((line) => !line.retired && line.kind === 'line') ?? [];
  }

  async #change(edits: LineEdit[]): Promise<void> {
    const body = { edits };
    const path = this.#path();
    this.classes = (await answer(api.POST('/api/books/{books}/lines', { ...path, body }))).classes;
    await this.books.load();
  }

  change(edit: LineEdit): Promise<void> {
    return this.#during(() => this.#change([edit]));
  }

  /** Puts a line before or behind its neighbour. */
  move(of: Class, line: Line, by: -1 | 1): Promise<void> {
    const all = this.classes?.find((one) => one.class === of)?.lines ?? [];
    const at = all.findIndex(({ id }) => id === line.id);
    if (at + by < 0 || at + by >= all.length) return Promise.resolve();
    const before = all[by < 0 ? at - 1 : at + 2]?.id ?? null;
    return this.change({ do: 'move', line: line.id, before });
  }

  /** Stages that the accounts of a line go to another. */
  merge(line: Line, into: Line): Promise<void> {
    return this.#during(async () => {
      await this.books.mergeLines([{ line: line.id, into: into.id }]);
      this.done = `“${line.name}” goes into “${into.name}” once the plan is applied.`;
    });
  }

  /** What a list in a file asks for; nothing is changed yet. */
  async read(file: File): Promise<AskedOfLines | null> {
    let asked: AskedOfLines | null = null;
    await this.#during(async () => {
      const form = new FormData();
      form.set('file', file);
      asked = await answer(
        api.POST('/api/books/{books}/lines/list', {
          ...this.#path(),
          body: form as never,
          bodySerializer: (body) => body,
        }),
      );
    });
    return asked;
  }

  /** Does what a list asks for. */
  follow(asked: AskedOfLines): Promise<void> {
    return this.#during(async () => {
      if (asked.edits.length) await this.#change(asked.edits);
      if (asked.merges.length) await this.books.mergeLines(asked.merges);
      this.done = 'The lines are as the list says.';
    });
  }

  /** What a line can be reckoned from, or it itself when it is reckoned: all but ratios. */
  operands(but: number | null): [string, Schemas['Operand']][] {
    return (this.classes ?? []).flatMap((one) => {
      const lines = one.lines.filter(
        ({ id, kind, retired }) => !retired && kind !== 'ratio' && id !== but,
      );
      const whole: [string, Schemas['Operand']] = [
        `Total ${one.title.toLowerCase()}`,
        { class: one.class },
      ];
      return [
        whole,
        ...lines.map(({ id, name }): [string, Schemas['Operand']] => [name, { line: id }]),
      ];
    });
  }

  /** What a reckoned line says of itself. */
  reckoned({ kind, terms }: Line): string {
    const name = (of: Schemas['Operand']) =>
      this.operands(null).find(([, own]) => sameOperand(own, of))?.[0] ?? 'a retired line';
    const [first, ...rest] = terms.map(({ of, taken_off }) => [name(of), taken_off] as const);
    if (!first) return '';
    if (kind === 'ratio') return `${first[0]} in % of ${rest[0]?.[0] ?? ''}`;
    const begin = first[1] ? `less ${first[0]}` : first[0];
    return [begin, ...rest.map(([name, off]) => `${off ? 'less' : 'and'} ${name}`)].join(' ');
  }

  name(id: number): string {
    const all = this.classes?.flatMap((one) => one.lines);
    return all?.find((line) => line.id === id)?.name ?? '';
  }
}
