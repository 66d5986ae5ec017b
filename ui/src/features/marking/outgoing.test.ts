import { describe, expect, it } from 'vitest';
import { following, joined, together, type Going } from '@/features/marking/outgoing';

const of = (notebook: string, criterion: string, marks: number, follows = 0): Going => ({
  notebook,
  second: false,
  criterion,
  marks,
  follows,
});

describe('marks on their way', () => {
  it('a second thought takes the place of the first, unless that is with the server', () => {
    const going = [of('a', 'x', 1, 7), of('a', 'y', 1)];
    expect(joined(going, of('a', 'x', 2), 0)).toEqual([of('a', 'x', 2, 7), of('a', 'y', 1)]);
    expect(joined(going, of('a', 'x', 2), 1)).toHaveLength(3);
    // What was given first may have been with the server when the second was given: the newest is last.
    const twice = [of('a', 'x', 1), of('a', 'x', 0)];
    expect(joined(twice, of('a', 'x', 2), 0).map((g) => g.marks)).toEqual([1, 2]);
    expect(joined(going, of('b', 'x', 2), 0)).toHaveLength(3);
    expect(joined(going, { ...of('a', 'x', 2), second: true }, 0)).toHaveLength(3);
  });
  it('those of one report go together, each criterion once', () => {
    expect(together([])).toBe(0);
    expect(together([of('a', 'x', 1), of('a', 'y', 1), of('b', 'x', 1)])).toBe(2);
    expect(together([of('a', 'x', 1), of('a', 'x', 2)])).toBe(1);
    expect(together(Array.from({ length: 80 }, (_, i) => of('a', `c${i}`, 1)))).toBe(60);
  });
  it('what is still going follows what the server has made', () => {
    const rest = [of('a', 'x', 2), of('b', 'x', 1)];
    expect(following(rest, 'a', false, new Map([['x', 12]]))).toEqual([of('a', 'x', 2, 12), of('b', 'x', 1)]);
  });
});
