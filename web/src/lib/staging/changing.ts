// How a plan that is shown becomes the one that an edit left.
import type { Schemas } from '../api/client';
import { Target, type Change } from './edits';

type Crossing = Schemas['Crossing'];
type PlanView = Schemas['PlanView'] & { crosswalk: Crossing[] };
type Put<T> = [at: number, item: T];

/** Leaves out what is gone, then puts each of the others at its place. */
function made<T>(list: T[], isGone: (item: T) => boolean, put: Put<T>[]): T[] {
  const made = list.filter((item) => !isGone(item));
  for (const [at, item] of put) made.splice(at, 0, item);
  return made;
}

/** The plan after an edit; none when what changed is not told of the plan that is shown. */
export function changed(
  plan: PlanView,
  change: Schemas['PlanChange'],
  { done, steps }: Pick<Schemas['EditedView'], 'done' | 'steps'>,
): PlanView | null {
  if (plan.revision !== change.since) return null;
  const { name, revision, fingerprint, took_ms, counts, figures } = change;
  const uncrossed = new Set(change.crosswalk.removed);
  const crosswalk = made(
    plan.crosswalk,
    (crossing) => uncrossed.has(crossing.account),
    change.crosswalk.placed.map(({ at, crossing }) => [at, crossing]),
  );
  const settled = new Set(change.findings.removed);
  const findings = made(
    plan.report.findings,
    (finding) => settled.has(finding.key),
    change.findings.placed.map(({ at, finding }) => [at, finding]),
  );
  const edited = new Set(done.map(({ account, field }) => `${account} ${field}`));
  const kept = plan.staged.filter((s) => !edited.has(`${s.account} ${s.change.field}`));
  const staged = done.flatMap(({ account, after }) => (after ? [{ account, change: after }] : []));
  return {
    id: plan.id,
    name,
    revision,
    fingerprint,
    took_ms,
    steps,
    counts,
    staged: [...kept, ...staged],
    added: change.added ?? plan.added,
    crosswalk,
    report: {
      ...plan.report,
      ...figures,
      crossings: crosswalk.length,
      findings,
      moved: change.moved ?? plan.report.moved,
      report_lines: change.report_lines ?? plan.report.report_lines,
    },
  };
}

/** What is staged of each account. */
export function targets(staged: { account: number; change: Change }[]): Map<number, Target> {
  const found = new Map<number, Target>();
  for (const { account, change } of staged) {
    const target = found.get(account) ?? new Target();
    target.put(change);
    found.set(account, target);
  }
  return found;
}
