// The open books: chart, plans, and the plan that is being worked on.
import { createContext } from 'svelte';
import { Attempt } from './api/attempt.svelte';
import { Asking } from './api/debounce';
import { api, answer, Refusal, type Schemas } from './api/client';
import { InOrder } from './api/sequence';
import { queries } from './api/queries';
import { changed, targets } from './staging/changing';
import { plural } from './figures';
import { fieldOf, type Change, type Edit, type Field, type Value } from './staging/edits';

export type Row = Schemas['ChartRow'];
/** An open plan, with the whole of its crosswalk. */
export type PlanView = Schemas['PlanView'] & { crosswalk: Crossing[] };
export type Finding = Schemas['FindingView'];
export type Crossing = Schemas['Crossing'];
export type Conflict = Schemas['ConflictView'];

/** An edit on its way, with what was seen staged there when it was made. */
interface Sent extends Edit {
  seen: Change | null;
}

const remembered = (books: number) => `plan of books ${books}`;

export class BooksState {
  readonly id: number;
  /** The day up to which figures are shown for once, as the address has it. */
  day: string | null = null;
  chart = $state.raw<Schemas['ChartView'] | null>(null);
  plans = $state.raw<Schemas['PlanListed'][]>([]);
  plan = $state.raw<PlanView | null>(null);
  /** Edits that were refused since somebody else was first. */
  conflicts = $state.raw<Conflict[]>([]);
  saving = $state(false);
  /** What is to be known of the latest undo or redo. */
  notice = $state('');
  readonly #changes = new InOrder();
  readonly #opening = new Asking();
  /** Counts what may have changed the books: what was asked before is not the answer any more. */
  #turn = 0;
  /** Edits that wait for those before them. */
  readonly #waiting = new Set<Sent[]>();

  readonly byId = $derived(new Map(this.chart?.rows.map((row) => [row.id, row]) ?? []));
  /** The classes with the statement items, in their order. */
  readonly classes = $derived(this.chart?.classes ?? []);
  readonly drafts = $derived(this.plans.filter((plan) => plan.status === 'draft'));
  readonly staged = $derived(targets(this.plan?.staged ?? []));
  readonly crossings = $derived(
    new Map(this.plan?.crosswalk.map((crossing) => [crossing.account, crossing]) ?? []),
  );
  readonly stops = $derived(
    this.plan?.report.findings.filter((f) => f.severity === 'stop' && !f.overridden) ?? [],
  );
  readonly cautions = $derived(
    this.plan?.report.findings.filter((f) => f.severity === 'caution' || f.overridden) ?? [],
  );
  /** Findings by the account whose row shows them, stops first. */
  readonly findings = $derived.by(() => {
    const byAccount = new Map<number, Finding[]>();
    for (const finding of this.plan?.report.findings ?? []) {
      const account = finding.accounts[0];
      if (account !== undefined)
        byAccount.set(account, [...(byAccount.get(account) ?? []), finding]);
    }
    return byAccount;
  });
  /** Everything that the plan does: accounts that change, and parts of histories that move. */
  readonly changes = $derived(
    (this.plan?.crosswalk.length ?? 0) + (this.plan?.report.moved.length ?? 0),
  );
  /** Whether one has a step to undo in the open plan, from wherever it was made, or one to redo. */
  readonly steps = $derived(this.plan?.steps ?? { undo: false, redo: false });

  constructor(id: number) {
    this.id = id;
  }

  /** Whether whoever is signed in may do something in these books. */
  may(what: Schemas['Capability']): boolean {
    return this.chart?.may.includes(what) ?? false;
  }

  async load(): Promise<void> {
    const [, chart] = await Promise.all([this.loadPlans(), this.#chart()]);
    this.chart = chart;
    const last = Number(localStorage.getItem(remembered(this.id)));
    const draft = this.drafts.find((plan) => plan.id === last) ?? this.drafts[0];
    await this.open(draft?.id ?? null);
  }

  #chart(between: { from?: number; to?: number } = {}) {
    const query = { ...between, ...(this.day && { day: this.day }) };
    const params = { path: { books: this.id }, query };
    return queries.fetchQuery({
      queryKey: ['chart', this.id, this.#turn, query],
      gcTime: 0,
      queryFn: ({ signal }) => answer(api.GET('/api/books/{books}/chart', { params, signal })),
    });
  }

  /** Shows figures up to a day for once, or up to that of the books again. */
  async showDay(day: string | null): Promise<void> {
    if (day === this.day) return;
    this.day = day;
    if (this.chart) this.chart = await this.#chart();
  }

  async between(from: number, to: number): Promise<void> {
    this.chart = await this.#chart({ from, to });
  }

  async loadPlans(): Promise<void> {
    this.#turn += 1;
    const params = { path: { books: this.id } };
    this.plans = await queries.fetchQuery({
      queryKey: ['plans', this.id, this.#turn],
      gcTime: 0,
      queryFn: ({ signal }) => answer(api.GET('/api/books/{books}/plans', { params, signal })),
    });
  }

  /** A plan as it stands now. */
  async #read(plan: number): Promise<PlanView> {
    const shown = await answer(api.GET('/api/books/{books}/plans/{plan}', this.#path(plan)));
    return this.#whole(shown);
  }

  /** A plan with its crosswalk, all of whose pages are of the revision that is shown. */
  async #whole(shown: Schemas['PlanView']): Promise<PlanView> {
    const ask = (page: number) => {
      const params = { ...this.#path(shown.id).params, query: { page } };
      return answer(api.GET('/api/books/{books}/plans/{plan}/crosswalk', { params }));
    };
    if (shown.report.crossings === 0) return { ...shown, crosswalk: [] };
    const first = await ask(0);
    const others = Array.from({ length: first.pages - 1 }, (_, n) => ask(n + 1));
    const pages = [first, ...(await Promise.all(others))];
    // Somebody else staged something meanwhile.
    if (pages.some(({ revision }) => revision !== shown.revision)) return this.#read(shown.id);
    return { ...shown, crosswalk: pages.flatMap(({ rows }) => rows) };
  }

  #path(plan: number) {
    return { params: { path: { books: this.id, plan } } };
  }

  async open(plan: number | null): Promise<void> {
    const isLatest = this.#opening.begin();
    this.notice = '';
    const opened = plan === null ? null : await this.#read(plan);
    if (!isLatest()) return;
    this.plan = opened;
    if (opened) localStorage.setItem(remembered(this.id), String(opened.id));
  }

  /** Shows the open plan as an answer has it, unless a newer one is shown already. */
  #show(plan: PlanView): void {
    const isOpen = this.plan?.id === plan.id;
    if (isOpen && plan.revision >= (this.plan?.revision ?? 0)) this.plan = plan;
  }

  begin(name: string): Promise<void> {
    return this.#changes.run(() => this.#begin(name));
  }

  async #begin(name: string): Promise<void> {
    const { id } = await answer(
      api.POST('/api/books/{books}/plans', {
        params: { path: { books: this.id } },
        body: { name },
      }),
    );
    await this.loadPlans();
    await this.open(id);
  }

  async rename(name: string): Promise<void> {
    if (!this.plan) return;
    await this.#change((plan) =>
      answer(api.PUT('/api/books/{books}/plans/{plan}', { ...this.#path(plan), body: { name } })),
    );
    this.plan = { ...this.plan, name };
    await this.loadPlans();
  }

  async discard(): Promise<void> {
    if (!this.plan) return;
    await this.#change((plan) =>
      answer(api.DELETE('/api/books/{books}/plans/{plan}', this.#path(plan))),
    );
    await this.loadPlans();
    await this.open(this.drafts[0]?.id ?? null);
  }

  /** Changes the plan that is open now; the first change begins one. */
  #change<T>(act: (plan: number) => Promise<T>): Promise<T> {
    const open = this.plan?.id;
    return this.#changes.run(async () => {
      if (open === undefined && !this.plan) await this.#begin('First draft');
      return act(open ?? this.plan?.id ?? 0);
    });
  }

  /** What is staged in a field; `undefined` when nothing is. */
  seen<F extends Field>(account: number, field: F): Value<F> | undefined {
    return this.staged.get(account)?.get(field);
  }

  /** Stages edits, all or none. Throws a {@link Refusal} that names the fields it cannot take. */
  async edit(edits: Edit[]): Promise<void> {
    if (edits.length === 0) return;
    const sent = edits.map((edit) => {
      const target = this.staged.get(edit.account);
      return { ...edit, seen: target?.change(fieldOf(edit.wanted)) ?? null };
    });
    this.#waiting.add(sent);
    await this.#change((plan) => {
      this.#waiting.delete(sent);
      return this.#send(plan, sent);
    });
  }

  async #send(plan: number, edits: Sent[]): Promise<void> {
    this.saving = true;
    this.notice = '';
    try {
      const body = { edits, revision: this.plan?.id === plan ? this.plan.revision : null };
      const edited = await answer(
        api.POST('/api/books/{books}/plans/{plan}/edits', { ...this.#path(plan), body }),
      );
      await this.#after(plan, edited);
      this.#tellWaiting(edited.done);
    } catch (error) {
      const code = error instanceof Refusal ? error.problem.code : '';
      // Somebody ended the plan: what is shown next is how things stand.
      if (code === 'plan_ended') await this.load();
      if (!(error instanceof Refusal) || code !== 'edit_conflict') throw error;
      // First what is staged now, so that a choice made in the dialog is made on that.
      this.#show(await this.#read(plan));
      this.conflicts = error.problem.conflicts ?? [];
    } finally {
      this.saving = false;
    }
  }

  /** Shows the plan as an edit left it, of which mostly only what changed is answered. */
  async #after(plan: number, edited: Schemas['EditedView']): Promise<void> {
    const left = edited.plan;
    const shown = this.plan?.id === plan ? this.plan : null;
    if ('whole' in left) this.#show(await this.#whole(left.whole));
    else if (shown && shown.revision < left.changed.revision) {
      this.#show(changed(shown, left.changed, edited) ?? (await this.#read(plan)));
    }
  }

  /** What one has just staged oneself counts as seen by one's own edits that wait behind it. */
  #tellWaiting(done: Schemas['FieldEditView'][]): void {
    const now = new Map(done.map((d) => [`${d.account} ${d.field}`, d.after ?? null]));
    for (const edit of [...this.#waiting].flat()) {
      const own = now.get(`${edit.account} ${fieldOf(edit.wanted)}`);
      if (own !== undefined) edit.seen = own;
    }
  }

  /** Undoes one's latest step in the open plan, or redoes the one that was undone last. */
  async step(again = false): Promise<void> {
    if (!(again ? this.steps.redo : this.steps.undo)) return;
    this.notice = '';
    const stepping = new Attempt();
    await stepping.run(() =>
      this.#change(async (plan) => {
        const body = { again, revision: this.plan?.revision ?? null };
        const stepped = await answer(
          api.POST('/api/books/{books}/plans/{plan}/step', { ...this.#path(plan), body }),
        );
        await this.#after(plan, stepped);
        this.#tellWaiting(stepped.done);
        if (stepped.stay > 0) {
          const fields = plural(stepped.stay, 'field');
          this.notice = `${fields} changed since by somebody else: left as they are.`;
        }
      }),
    );
    this.notice ||= stepping.problem;
  }

  /** Stages a new account and answers its number. */
  add(account: Schemas['NewAccountForm']): Promise<number> {
    return this.#change(async (plan) => {
      const edited = await answer(
        api.POST('/api/books/{books}/plans/{plan}/accounts', {
          ...this.#path(plan),
          body: account,
        }),
      );
      await this.#after(plan, edited);
      return edited.added[0] ?? 0;
    });
  }

  /** Keeps an account on one's own short list, or no longer. */
  async follow(account: number, follows: boolean): Promise<void> {
    const path = { params: { path: { books: this.id, account } } };
    const to = '/api/books/{books}/accounts/{account}/follow' as const;
    await answer(follows ? api.PUT(to, path) : api.DELETE(to, path));
    if (!this.chart) return;
    const others = this.chart.followed.filter((id) => id !== account);
    this.chart = { ...this.chart, followed: follows ? [...others, account] : others };
  }

  /** Stages new accounts made after existing ones. */
  copy(body: Schemas['ScopedRule']): Promise<void> {
    return this.#change(async (plan) => {
      const edited = await answer(
        api.POST('/api/books/{books}/plans/{plan}/copies', { ...this.#path(plan), body }),
      );
      await this.#after(plan, edited);
    });
  }

  /** Stages that the accounts of statement items go to other items. */
  mergeItems(merges: Schemas['ItemMerge'][]): Promise<void> {
    return this.#change(async (plan) => {
      const body = { merges };
      const edited = await answer(
        api.POST('/api/books/{books}/plans/{plan}/items', { ...this.#path(plan), body }),
      );
      await this.#after(plan, edited);
    });
  }

  override(finding: string, reason: string | null): Promise<void> {
    return this.#change(async (plan) => {
      const body = { finding, reason };
      const overridden = await answer(
        api.PUT('/api/books/{books}/plans/{plan}/override', { ...this.#path(plan), body }),
      );
      this.#show(await this.#whole(overridden));
    });
  }

  /** Applies the open plan as it is shown now, and answers the number of its proof. */
  async apply(): Promise<number> {
    if (!this.plan) throw new Error('there is no plan to apply');
    const { id: plan, fingerprint, revision } = this.plan;
    const body = {
      fingerprint,
      revision,
      acknowledged: this.cautions.map((caution) => caution.key),
    };
    try {
      const { id } = await this.#changes.run(() =>
        answer(api.POST('/api/books/{books}/plans/{plan}/apply', { ...this.#path(plan), body })),
      );
      await this.load();
      return id;
    } catch (error) {
      // Whatever was refused, what is shown next is how things stand now: also when somebody else
      // was first and there is no such draft any more.
      await this.load();
      throw error;
    }
  }

  /** The statement items that accounts of a class can stand under. */
  captionsOf(of: Schemas['Class']): Schemas['CaptionView'][] {
    return this.classes.find((one) => one.class === of)?.captions ?? [];
  }

  /** What a class is called over its items. */
  titleOf(of: Schemas['Class']): string {
    return this.classes.find((one) => one.class === of)?.title ?? of;
  }

  label(account: number): string {
    const row = this.byId.get(account);
    const staged = this.staged.get(account);
    const code = row?.code ?? staged?.get('code') ?? '';
    return `${code} ${row?.name ?? staged?.get('name') ?? ''}`;
  }
}

export const [getBooks, setBooks] = createContext<BooksState>();
