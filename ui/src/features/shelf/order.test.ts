import { describe, expect, it } from 'vitest';
import type { Schemas } from '@/api/client';
import { found, inOrder } from './order';

const item = (title: string, more: Partial<Schemas['ShelfItem']> = {}) =>
  ({
    practical: title,
    title,
    purpose: 'for the tank',
    setting: { equation: 'HCl + NaOH' },
    times: {},
    notebooks: [],
    ...more,
  }) as unknown as Schemas['ShelfItem'];
const titles = (items: Schemas['ShelfItem'][]) => items.map((p) => p.title).join(' ');

describe('a shelf', () => {
  it('has first what is due next, and last what is over', () => {
    expect(
      titles(
        inOrder([
          item('ended', { ended: true }),
          item('never-1'),
          item('june', { times: { due: '2027-06-01T12:00:00Z' } }),
          item('over', { over: true, times: { due: '2027-01-01T12:00:00Z' } }),
          item('may', { times: { due: '2027-05-01T12:00:00Z' } }),
          item('never-2'),
        ]),
      ),
    ).toBe('may june never-1 never-2 ended over');
  });

  it('keeps an order of its own where nothing is due, and one from before times were known', () => {
    const old = { ...item('old'), times: undefined } as unknown as Schemas['ShelfItem'];
    expect(titles(inOrder([item('b'), old, item('a')]))).toBe('b old a');
  });

  it('is searched for words in title, purpose and equation', () => {
    const all = [item('Vinegar'), item('Lime', { purpose: 'for the reef' })];
    expect(titles(found(all, ''))).toBe('Vinegar Lime');
    expect(titles(found(all, ' NAOH  reef'))).toBe('Lime');
    expect(titles(found(all, 'gold'))).toBe('');
  });
});
