import { describe, expect, it } from 'vitest';
import { changed } from '@/notebook/change';

describe('what differs of a sheet', () => {
  const held = { entries: 2, trials: [{ id: 'a' }, { id: 'b' }, { id: 'c' }], notes: ['one'], expected: { low: 1 } };
  const cases: [string, Record<string, unknown>, Record<string, unknown>][] = [
    ['nothing', {}, held],
    ['a field', { entries: 3 }, { ...held, entries: 3 }],
    ['a field that is gone', { expected: null }, { entries: 2, trials: held.trials, notes: held.notes }],
    ['a field that is new', { blank: 0.05 }, { ...held, blank: 0.05 }],
    ['a whole list', { notes: ['two'] }, { ...held, notes: ['two'] }],
    ['an object', { expected: { low: 2 } }, { ...held, expected: { low: 2 } }],
    [
      'an item of a list',
      { trials: { length: 3, items: { 1: { id: 'x' } } } },
      { ...held, trials: [{ id: 'a' }, { id: 'x' }, { id: 'c' }] },
    ],
    [
      'a longer list',
      { trials: { length: 4, items: { 3: { id: 'd' } } } },
      { ...held, trials: [...held.trials, { id: 'd' }] },
    ],
    ['a shorter list', { trials: { length: 1, items: {} } }, { ...held, trials: [{ id: 'a' }] }],
  ];
  it.each(cases)('%s', (_, change, want) => {
    const before = structuredClone(held);
    expect(changed(held, change)).toEqual(want);
    expect(held).toEqual(before);
  });
});
