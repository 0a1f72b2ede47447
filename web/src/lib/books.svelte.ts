// The open books: chart, plans, and the plan that is being worked on.
import { createContext } from 'svelte';
import { api, answer, Refusal, type Schemas } from './api/client';

export type Row = Schemas['ChartRow'];
export type PlanView = Schemas['PlanView'];
export type Finding = Schemas['FindingView'];
export type Crossing = Schemas['Crossing'];
export type Conflict = Schemas['ConflictView'];
export type Field =
  'code' | 'name' | 'class' | 'section' | 'parent' | 'tax' | 'description' | 'history' | 'fate';

/** A change of one staged field; `null` takes it back. */
export interface Edit {
  account: number;
  field: Field;
  value: string | null;
}

const remembered = (books: number) => `plan of books ${books}`;

export class BooksState {
  readonly id: number;
  chart = $state.raw<Schemas['ChartView'] | null>(null);
  plans = $state.raw<Schemas['PlanListed'][]>([]);
  plan = $state.raw<PlanView | null>(null);
  /** Edits that were refused since somebody else was first. */
  conflicts = $state.raw<Conflict[]>([]);
  saving = $state(false);
  #taken: Edit[][] = $state.raw([]);

  readonly byId = $derived(new Map(this.chart?.rows.map((row) => [row.id, row]) ?? []));
  readonly drafts = $derived(this.plans.filter((plan) => plan.status === 'draft'));
  readonly staged = $derived.by(() => {
    const staged = new Map<number, Map<string, string>>();
    for (const { account, field, value } of this.plan?.staged ?? []) {
      const fields = staged.get(account) ?? new Map<string, string>();
      staged.set(account, fields.set(field, value));
    }
    return staged;
  });
  readonly crossings = $derived(
    new Map(this.plan?.report.crosswalk.map((crossing) => [crossing.account, crossing]) ?? []),
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
    (this.plan?.report.crosswalk.length ?? 0) + (this.plan?.report.moved.length ?? 0),
  );
  readonly canTakeBack = $derived(this.#taken.length > 0);

  constructor(id: number) {
    this.id = id;
  }

  async load(): Promise<void> {
    const [chart] = await Promise.all([this.#chart(), this.loadPlans()]);
    this.chart = chart;
    const last = Number(localStorage.getItem(remembered(this.id)));
    const draft = this.drafts.find((plan) => plan.id === last) ?? this.drafts[0];
    await this.open(draft?.id ?? null);
  }

  #chart(query: { from?: number; to?: number } = {}) {
    return answer(
      api.GET('/api/books/{books}/chart', { params: { path: { books: this.id }, query } }),
    );
  }

  async between(from: number, to: number): Promise<void> {
    this.chart = await this.#chart({ from, to });
  }

  async loadPlans(): Promise<void> {
    this.plans = await answer(
      api.GET('/api/books/{books}/plans', { params: { path: { books: this.id } } }),
    );
  }

  #path(plan: number) {
    return { params: { path: { books: this.id, plan } } };
  }

  async open(plan: number | null): Promise<void> {
    this.#taken = [];
    if (plan === null) {
      this.plan = null;
      return;
    }
    this.plan = await answer(api.GET('/api/books/{books}/plans/{plan}', this.#path(plan)));
    localStorage.setItem(remembered(this.id), String(plan));
  }

  async begin(name: string): Promise<void> {
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
    await answer(
      api.PUT('/api/books/{books}/plans/{plan}', { ...this.#path(this.plan.id), body: { name } }),
    );
    this.plan = { ...this.plan, name };
    await this.loadPlans();
  }

  async discard(): Promise<void> {
    if (!this.plan) return;
    await answer(api.DELETE('/api/books/{books}/plans/{plan}', this.#path(this.plan.id)));
    await this.loadPlans();
    await this.open(this.drafts[0]?.id ?? null);
  }

  /** The open plan; the first change begins one. */
  async #anyPlan(): Promise<number> {
    if (!this.plan) await this.begin('First draft');
    return this.plan?.id ?? 0;
  }

  seen(account: number, field: string): string | null {
    return this.staged.get(account)?.get(field) ?? null;
  }

  /** Stages edits, all or none. Throws a {@link Refusal} that names the fields it cannot take. */
  async edit(edits: Edit[], isWayBack = false): Promise<void> {
    if (edits.length === 0) return;
    const plan = await this.#anyPlan();
    const before = edits.map((e) => ({ ...e, value: this.seen(e.account, e.field) }));
    const body = {
      edits: edits.map((e) => ({ ...e, seen: this.seen(e.account, e.field) })),
    };
    this.saving = true;
    try {
      this.plan = await answer(
        api.POST('/api/books/{books}/plans/{plan}/edits', { ...this.#path(plan), body }),
      );
      if (!isWayBack) this.#taken = [...this.#taken, before];
    } catch (error) {
      if (!(error instanceof Refusal) || error.problem.code !== 'edit_conflict') throw error;
      // First what is staged now, so that a choice made in the dialog is made on that.
      this.plan = await answer(api.GET('/api/books/{books}/plans/{plan}', this.#path(plan)));
      this.conflicts = error.problem.conflicts ?? [];
    } finally {
      this.saving = false;
    }
  }

  /** Takes the latest edit of this visit back. */
  async takeBack(): Promise<void> {
    const last = this.#taken.at(-1);
    if (!last) return;
    this.#taken = this.#taken.slice(0, -1);
    await this.edit(last, true);
  }

  /** Stages a new account and answers its number. */
  async add(account: Schemas['NewAccountForm']): Promise<number> {
    const plan = await this.#anyPlan();
    const before = new Set(this.staged.keys());
    this.plan = await answer(
      api.POST('/api/books/{books}/plans/{plan}/accounts', { ...this.#path(plan), body: account }),
    );
    return [...this.staged.keys()].find((id) => !before.has(id)) ?? 0;
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
  async copy(body: Schemas['ScopedRule']): Promise<void> {
    const plan = await this.#anyPlan();
    this.plan = await answer(
      api.POST('/api/books/{books}/plans/{plan}/copies', { ...this.#path(plan), body }),
    );
  }

  async override(finding: string, reason: string | null): Promise<void> {
    if (!this.plan) return;
    this.plan = await answer(
      api.PUT('/api/books/{books}/plans/{plan}/override', {
        ...this.#path(this.plan.id),
        body: { finding, reason },
      }),
    );
  }

  /** Applies the open plan and answers the number of its proof. */
  async apply(): Promise<number> {
    if (!this.plan) throw new Error('there is no plan to apply');
    const body = {
      fingerprint: this.plan.fingerprint,
      acknowledged: this.cautions.map((caution) => caution.key),
    };
    try {
      const { id } = await answer(
        api.POST('/api/books/{books}/plans/{plan}/apply', { ...this.#path(this.plan.id), body }),
      );
      await this.load();
      return id;
    } catch (error) {
      // Whatever was refused, what is shown next is how things stand now.
      this.chart = await this.#chart();
      await this.open(this.plan.id);
      throw error;
    }
  }

  label(account: number): string {
    const row = this.byId.get(account);
    const staged = this.staged.get(account);
    const code = row?.code ?? staged?.get('code') ?? '';
    return `${code} ${row?.name ?? staged?.get('name') ?? ''}`;
  }
}

export const [getBooks, setBooks] = createContext<BooksState>();
