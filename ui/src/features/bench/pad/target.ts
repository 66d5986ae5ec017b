// Which trial and field a reading belongs to: the ones that were shown when its first key was
// pressed. What was typed while an earlier one was on its way belongs behind that one.
import type { Schemas } from '@/api/client';
import type { Mark, TrialType } from '@/notebook/useBench';

type Next = Pick<Schemas['Next'], 'entry' | 'others'>;
type Expect = Schemas['Expect'];

/** What the pad showed: a field of a trial that is open, or the first one of a trial to open. */
export type Shown = { trial?: string; mark: Mark; opens?: TrialType };

/** What a reading is of, as it is kept with it. Behind: of what comes after the reading before it. */
export type Target = { trial: string; mark: Mark; opens?: TrialType } | { behind: true };

/** What is expected for every trial that is open. */
export const openOf = (next: Next): Expect[] =>
  [next.entry, ...(next.others ?? [])].filter((e) => !!e?.trial) as Expect[];

/** The field that is shown: of the trial that was chosen, where it is open still. */
export const shownOf = (next: Next, chosen: string): Expect | undefined =>
  openOf(next).find((e) => e.trial === chosen) ?? next.entry;

/** What a reading is of that was begun with this shown. */
export function targetOf(shown: Shown, settled: boolean, fresh: () => string): Target {
  if (!settled) return { behind: true };
  return shown.trial
    ? { trial: shown.trial, mark: shown.mark }
    : { trial: fresh(), mark: shown.mark, opens: shown.opens ?? 'accurate' };
}

/** What is written: a reading in a field of a trial, which is opened for it. */
export type Place = { trial: string; mark: Mark; opens?: TrialType };

/**
 * Where a reading goes when its turn has come, by what is expected then; undefined where that is no
 * longer so: somebody else has written there.
 */
export function placeOf(
  target: Target,
  next: Next,
  before: string, // the trial that the reading before it was of
  opens: TrialType | undefined, // chosen by hand
  fresh: () => string,
): Place | undefined {
  const open = openOf(next);
  if ('behind' in target) {
    const same = open.find((e) => e.trial === before);
    if (same) return { trial: before, mark: same.mark };
    const entry = next.entry;
    const may = entry?.may?.find((m) => m.type === (opens ?? entry.opens));
    return entry?.opens ? { trial: fresh(), mark: may?.mark ?? entry.mark, opens: opens ?? entry.opens } : undefined;
  }
  if (target.opens) return { trial: target.trial, mark: target.mark, opens: opens ?? target.opens };
  const now = open.find((e) => e.trial === target.trial);
  return now?.mark === target.mark ? { trial: target.trial, mark: target.mark } : undefined;
}
