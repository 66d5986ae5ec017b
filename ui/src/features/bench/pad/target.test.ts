import { describe, expect, it } from 'vitest';
import { openOf, placeOf, shownOf, targetOf, type Shown, type Target } from '@/features/bench/pad/target';

const fresh = () => 'new';
const may = [
  { type: 'rough' as const, mark: 'start' as const },
  { type: 'accurate' as const, mark: 'sample-start' as const },
];
const begins = { entry: { opens: 'rough' as const, mark: 'start' as const, may } };
const mine = { trial: 'mine', mark: 'end' as const };
const theirs = { trial: 'theirs', mark: 'end' as const };
const start: Shown = { mark: 'start', opens: 'rough' };

// What is typed belongs to what was shown at its first key; what stands there when its turn has come
// is either the same, or it goes nowhere by itself.
describe('where a reading goes', () => {
  const rows: [string, Shown, boolean, Parameters<typeof placeOf>[1], string, ReturnType<typeof placeOf>][] = [
    ['the first of a trial', start, true, begins, '', { trial: 'new', mark: 'start', opens: 'rough' }],
    ['its end', { trial: 'mine', mark: 'end' }, true, { entry: mine }, '', { trial: 'mine', mark: 'end' }],
    // A partner began a trial between the first key and the turn: two stay two.
    ['a trial begun elsewhere', start, true, { entry: theirs }, '', { trial: 'new', mark: 'start', opens: 'rough' }],
    [
      'mine beside theirs',
      { trial: 'mine', mark: 'end' },
      true,
      { entry: theirs, others: [mine] },
      '',
      { trial: 'mine', mark: 'end' },
    ],
    ['ended elsewhere', { trial: 'mine', mark: 'end' }, true, begins, '', undefined],
    ['ended elsewhere, and theirs open', { trial: 'mine', mark: 'end' }, true, { entry: theirs }, '', undefined],
    ['another field of it now', { trial: 'mine', mark: 'start' }, true, { entry: mine }, '', undefined],
    // Typed while the reading before it was on its way.
    ['behind the start', start, false, { entry: mine }, 'mine', { trial: 'mine', mark: 'end' }],
    [
      'behind the start, theirs last',
      start,
      false,
      { entry: theirs, others: [mine] },
      'mine',
      { trial: 'mine', mark: 'end' },
    ],
    ['behind the end', start, false, begins, 'mine', { trial: 'new', mark: 'start', opens: 'rough' }],
    ['behind the end, theirs open', start, false, { entry: theirs }, 'mine', undefined],
    ['after a reload, theirs open', start, false, { entry: theirs }, '', undefined],
  ];
  it.each(rows)('%s', (_, shown, settled, next, before, want) => {
    expect(placeOf(targetOf(shown, settled, fresh), next, before, undefined, fresh)).toEqual(want);
  });
  it('is of the kind that was chosen, and begins where that does', () => {
    const behind: Target = { behind: true };
    expect(placeOf(behind, begins, '', 'accurate', fresh)).toEqual({
      trial: 'new',
      mark: 'sample-start',
      opens: 'accurate',
    });
    const target = targetOf({ mark: 'start', opens: 'accurate' }, true, fresh);
    expect(placeOf(target, { entry: theirs }, '', 'accurate', fresh)).toEqual({
      trial: 'new',
      mark: 'start',
      opens: 'accurate',
    });
  });
});

describe('what is shown', () => {
  it('is the trial that was chosen, while it is open', () => {
    const next = { entry: theirs, others: [mine] };
    expect(openOf(next).map((e) => e.trial)).toEqual(['theirs', 'mine']);
    expect(shownOf(next, 'mine')).toEqual(mine);
    expect(shownOf(next, 'gone')).toEqual(theirs);
    expect(shownOf(begins, 'mine')).toEqual(begins.entry);
    expect(openOf(begins)).toEqual([]);
  });
});
