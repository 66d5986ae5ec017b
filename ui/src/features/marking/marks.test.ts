import { describe, expect, it } from 'vitest';
import type { DeskRow, MarkLine } from '@/api/marking';
import { byDigit, neighbour, nextOpen, written } from '@/features/marking/marks';

describe('marks', () => {
  it('are written with quarters', () => {
    expect([0, 1, 1.5, 0.25, 2.75, undefined, null].map(written)).toEqual(['0', '1', '1½', '¼', '2¾', '–', '–']);
  });
  it('a digit gives no more than can be had', () => {
    expect(['0', '2', '3', 'x', ''].map((k) => byDigit(k, 2))).toEqual([0, 2, undefined, undefined, undefined]);
  });
  it('go on to what nobody awarded, and to the next report', () => {
    const line = (marks?: number) => ({ award: marks === undefined ? undefined : { marks } }) as MarkLine;
    expect(nextOpen([line(1), line(), line(0), line()], 1)).toBe(3);
    expect(nextOpen([line(), line(1)], 1)).toBe(0);
    expect(nextOpen([line(1), line(0)], 0)).toBe(-1);
    const rows = [
      { notebook: 'a', open: 0 },
      { notebook: 'b', open: 0 },
      { notebook: 'c', open: 2 },
    ] as DeskRow[];
    expect(neighbour(rows, 'a', 1)).toBe('b');
    expect(neighbour(rows, 'a', 1, true)).toBe('c');
    expect(neighbour(rows, 'a', -1)).toBe('');
  });
});
