import { describe, expect, it } from 'vitest';
import { dayOf, fromNow, whenIs, withMoment } from '@/shared/when';

const thisYear = new Date().getFullYear();

describe('a moment', () => {
  it('has its month in letters, and its year only where it is another one', () => {
    const at = new Date(thisYear, 11, 1, 9, 5);
    expect(whenIs(at)).toMatch(/^\w{3},? 1 Dec,? 09:05$/);
    expect(dayOf(new Date(thisYear + 5, 2, 4))).toMatch(new RegExp(`4 Mar ${thisYear + 5}$`));
    expect(withMoment('opens {at}', at.toISOString())).toMatch(/^opens .*09:05$/);
    expect(withMoment('open')).toBe('open');
  });
  const now = '2026-12-01T10:00:00Z';
  const rows: [string, string][] = [
    ['2026-12-01T09:59:59Z', 'this minute'],
    ['2026-12-01T09:01:00Z', '59 minutes ago'],
    ['2026-12-01T09:00:00Z', '1 hour ago'],
    ['2026-11-30T10:00:01Z', '23 hours ago'],
    ['2026-11-30T10:00:00Z', 'yesterday'],
    ['2026-11-26T10:00:00Z', '5 days ago'],
    ['2026-12-01T12:30:00Z', 'in 2 hours'],
    ['2026-12-03T10:00:00Z', 'in 2 days'],
  ];
  it.each(rows)('%s is %s', (at, want) => expect(fromNow(at, now)).toBe(want));
});
