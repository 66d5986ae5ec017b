// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, ref, type EffectScope } from 'vue';
import { owner } from '@/device/owner';
import { fresh } from './fresh.test-help';
import { beginWith, useSharedDraft } from './kept';

// The server's side of it: what it was asked, and the draft that it has.
const asked: string[] = [];
let there: unknown;
vi.mock('@/api/client', () => {
  const call =
    (method: string) => (_: string, of: { params: { path: { name: string } }; body?: { practical: unknown } }) => {
      asked.push(`${method} ${of.params.path.name}`);
      return Promise.resolve({ practical: method === 'GET' ? there : undefined });
    };
  return { api: { GET: call('GET'), PUT: call('PUT'), DELETE: call('DELETE') }, answer: (p: Promise<unknown>) => p };
});

describe('a practical that is being written', () => {
  let scope: EffectScope;
  const id = ref<string>();
  const open = () => scope.run(() => useSharedDraft('c', () => id.value))!;
  const titled = (title: string) => ({ ...fresh(), title });

  beforeEach(() => {
    vi.useFakeTimers();
    localStorage.clear();
    owner.id = 'me';
    asked.length = 0;
    there = undefined;
    id.value = undefined;
    scope = effectScope();
  });
  afterEach(() => {
    scope.stop();
    vi.useRealTimers();
  });

  it('is kept at once here, and on the server after a pause, once', async () => {
    const { keep, find } = open();
    keep(titled('a'));
    keep(titled('ab'));
    expect((await find())?.title).toBe('ab');
    expect(asked).toEqual([]);
    vi.advanceTimersByTime(1000);
    expect(asked).toEqual(['PUT new']);
  });

  it('is sent when the page is left before the pause is over', () => {
    open().keep(titled('a'));
    scope.stop();
    expect(asked).toEqual(['PUT new']);
  });

  it('is that of another device where there is none here', async () => {
    there = titled('from there');
    expect((await open().find())?.title).toBe('from there');
    owner.id = 'somebody else';
    beginWith('c', titled('from the library'));
    expect((await open().find())?.title).toBe('from the library');
  });

  it('is forgotten everywhere when it is set, and what follows is kept under its own name', async () => {
    const { keep, find } = open();
    keep(titled('a'));
    keep(null);
    id.value = 'practical-1';
    keep(titled('set, and changed'));
    vi.advanceTimersByTime(1000);
    expect(asked).toEqual(['DELETE new', 'PUT practical-1']);
    id.value = undefined;
    expect(await find()).toBeNull();
  });

  it('asks for nothing to be forgotten that was never kept', () => {
    open().keep(null);
    expect(asked).toEqual([]);
  });
});
