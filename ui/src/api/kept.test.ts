import { beforeEach, describe, expect, it, vi } from 'vitest';
import { dropOldest, forget, forgetAll, keep, kept } from './kept';

describe('what this device keeps of the server', () => {
  beforeEach(() => {
    localStorage.clear();
    vi.useFakeTimers();
    vi.setSystemTime(1_000);
  });
  const later = (key: string) => {
    vi.advanceTimersByTime(1_000);
    keep(key, key);
  };

  it('gives back what was kept, until it is forgotten', () => {
    keep('me', { name: 'Mira' });
    expect(kept('me')).toEqual({ name: 'Mira' });
    forget('me');
    expect(kept('me')).toBeUndefined();
  });

  it('keeps the twelve newest, and forgets only its own', () => {
    localStorage.setItem('exactflask.outbox.p.e1', 'not sent yet');
    for (let i = 0; i < 15; i++) later(`notebook.${i}`);
    expect(kept('notebook.2')).toBeUndefined();
    expect(kept('notebook.3')).toBe('notebook.3');
    expect(dropOldest()).toBe(true);
    expect(kept('notebook.3')).toBeUndefined();
    forgetAll();
    expect(kept('notebook.14')).toBeUndefined();
    expect(dropOldest()).toBe(false);
    expect(localStorage.getItem('exactflask.outbox.p.e1')).toBe('not sent yet');
  });
});
