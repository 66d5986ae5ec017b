// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { owner } from '@/device/owner';
import { Offline } from '@/api/client';
import { dropOldest, forgetAll, keep, kept, orKept } from './kept';

describe('what this device keeps of the server', () => {
  beforeEach(() => {
    localStorage.clear();
    owner.id = 'p';
    vi.useFakeTimers();
    vi.setSystemTime(1_000);
  });
  const later = (key: string) => {
    vi.advanceTimersByTime(1_000);
    keep(key, key);
  };

  it('is each person\u2019s own', () => {
    keep('shelf', { of: 'Mira' });
    owner.id = 'q';
    expect(kept('shelf')).toBeUndefined();
    forgetAll();
    owner.id = 'p';
    expect(kept('shelf')).toEqual({ of: 'Mira' });
    owner.id = '';
    keep('shelf', 'of nobody');
    expect(kept('shelf')).toBeUndefined();
  });

  it('does not keep an answer that was overtaken on its way, and stands in with the newer one', async () => {
    const told: number[] = [];
    const fetched = (ask: () => Promise<number>) =>
      orKept(
        'notebook.n',
        ask,
        (n) => void told.push(n),
        (n) => n < (kept<number>('notebook.n') ?? 0),
      );
    expect(await fetched(async () => 3)).toBe(3);
    expect(await fetched(async () => 2)).toBe(2); // asked for before, answered after
    expect(kept('notebook.n')).toBe(3);
    expect(await fetched(() => Promise.reject(new Offline()))).toBe(3);
    expect(await fetched(async () => 3)).toBe(3);
    expect(told).toEqual([3, 3]);
  });

  it('keeps the sixteen newest, and forgets only its own', () => {
    localStorage.setItem('exactflask.outbox.p.e1', 'not sent yet');
    for (let i = 0; i < 19; i++) later(`notebook.${i}`);
    expect(kept('notebook.2')).toBeUndefined();
    expect(kept('notebook.3')).toBe('notebook.3');
    expect(dropOldest()).toBe(true);
    expect(kept('notebook.3')).toBeUndefined();
    forgetAll();
    expect(kept('notebook.18')).toBeUndefined();
    expect(dropOldest()).toBe(false);
    expect(localStorage.getItem('exactflask.outbox.p.e1')).toBe('not sent yet');
  });
});
