// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope } from 'vue';
import { dropDrafts, useDraft } from './drafts';
import { owner } from './owner';
import { device, places, read, readValue, remove, write } from './storage';

beforeEach(() => {
  localStorage.clear();
  owner.id = 'p';
  device.full = device.blocked = false;
});
afterEach(() => vi.restoreAllMocks());

describe('what a device keeps', () => {
  it('is written, read, listed and removed', () => {
    expect(write('a.1', { n: 1 })).toBe(true);
    expect(readValue('a.1')).toEqual({ n: 1 });
    write('b.1', 2);
    expect(places('a.')).toEqual(['a.1']);
    remove('a.1');
    expect(read('a.1')).toBeNull();
    localStorage.setItem('a.2', '{spoilt');
    expect(readValue('a.2')).toBeUndefined();
  });

  it('is kept in the window where there is no room, which is said, and on the device once there is', () => {
    const real = window.localStorage;
    real.setItem('large', 'x');
    const full = {
      length: 1,
      key: (i: number) => real.key(i),
      getItem: (k: string) => real.getItem(k),
      removeItem: (k: string) => real.removeItem(k),
      setItem: () => {
        throw new DOMException('full', 'QuotaExceededError');
      },
    } as unknown as Storage;
    const set = vi.spyOn(window, 'localStorage', 'get').mockReturnValue(full);
    let room = 1;
    expect(write('w.1', 'typed', () => room-- > 0)).toBe(false);
    expect(room).toBeLessThan(0); // what could be given up was
    expect(device.full).toBe(true);
    expect(readValue('w.1')).toBe('typed');
    expect(places('w.')).toEqual(['w.1']);
    set.mockRestore();
    expect(write('w.1', 'typed again')).toBe(true);
    expect(device.full).toBe(false);
    expect(localStorage.getItem('w.1')).toBe('"typed again"');
  });

  it('is kept in the window where the browser keeps nothing', () => {
    vi.spyOn(window, 'localStorage', 'get').mockImplementation(() => {
      throw new DOMException('blocked', 'SecurityError');
    });
    expect(write('x.1', 1)).toBe(false);
    expect(device.blocked).toBe(true);
    expect(readValue('x.1')).toBe(1);
    remove('x.1');
    expect(places('x.')).toEqual([]);
  });
});

describe('a draft', () => {
  const draft = <T>(key: string, initial: T) => effectScope(true).run(() => useDraft(key, initial))!;

  it('stays until it is done, under its person', () => {
    draft('reading.n1', '').value = '24.7';
    expect(draft('reading.n1', '').value).toBe('24.7');
    owner.id = 'q';
    expect(draft('reading.n1', '').value).toBe('');
    owner.id = 'p';
    dropDrafts('reading.n');
    expect(draft('reading.n1', '').value, 'another’s draft').toBe('24.7');
    dropDrafts('reading.n1');
    expect(draft('reading.n1', '').value).toBe('');
  });

  it('that is what it began with is none', () => {
    const d = draft('weigh', { full: '', emptied: '' });
    d.value.full = '14.2';
    expect(places('exactflask.draft.p.')).toHaveLength(1);
    d.value.full = '';
    expect(places('exactflask.draft.p.')).toEqual([]);
  });
});
