// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

const answers = { '/api/me': { person: { id: 'mira' } }, '/api/notebooks/n1': { id: 'n1' } };
const asked = vi.fn((path: string, how: RequestInit) => {
  const as = new Headers(how.headers).get('Exactflask-Person');
  if (path === '/api/me' && down) return Promise.reject(new TypeError('no network'));
  return Promise.resolve(Response.json({ ...answers[path as keyof typeof answers], as }));
});
let down = false;

async function open(path: string, { head = true, kept = '', leaving = '' } = {}) {
  vi.resetModules();
  document.body.innerHTML = head ? '<div id="app"><header></header></div>' : '<div id="app"></div>';
  window.history.replaceState(null, '', path);
  if (kept) localStorage.setItem('exactflask.session', JSON.stringify({ id: kept }));
  if (leaving) localStorage.setItem('exactflask.leaving', JSON.stringify(leaving));
  const { askedEarly } = await import('./early');
  await new Promise((done) => setTimeout(done)); // what it learned first is asked with
  return askedEarly;
}

describe('what is asked for early', () => {
  beforeEach(() => {
    localStorage.clear();
    down = false;
    asked.mockClear();
    vi.stubGlobal('fetch', asked);
  });
  afterEach(() => vi.unstubAllGlobals());
  const paths = () => asked.mock.calls.map(([path]) => path);

  it('is who is here, and their notebook', async () => {
    const early = await open('/notebooks/n1/result');
    expect(paths()).toEqual(['/api/me', '/api/notebooks/n1']);
    expect(early('/api/notebooks/n1', 'teo')).toBeUndefined();
    expect(await (await early('/api/notebooks/n1', 'mira'))!.json()).toEqual({ id: 'n1', as: 'mira' });
    expect(early('/api/notebooks/n1', 'mira'), 'given once').toBeUndefined();
    expect(await (await early('/api/me', ''))!.json()).toMatchObject({ person: { id: 'mira' } });
  });
  it('is asked as whom this device remembers', async () => {
    const early = await open('/notebooks/n1', { kept: 'teo' });
    expect(early('/api/notebooks/n1', 'mira')).toBeUndefined();
    expect(await (await early('/api/notebooks/n1', 'teo'))!.json()).toEqual({ id: 'n1', as: 'teo' });
  });
  it('is no notebook on other pages', async () => {
    await open('/shelf', { kept: 'teo' });
    expect(paths()).toEqual(['/api/me']);
  });
  it('is nothing where nobody is known, or who was here has left', async () => {
    await open('/notebooks/n1', { head: false });
    await open('/notebooks/n1', { kept: 'teo', leaving: 'teo' });
    expect(paths()).toEqual([]);
  });
  it('is nothing without the network', async () => {
    down = true;
    const early = await open('/notebooks/n1');
    expect(paths()).toEqual(['/api/me']);
    await expect(early('/api/me', '')).rejects.toThrow('no network');
  });
  it('is not kept for long', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout'], shouldAdvanceTime: true });
    const early = await open('/notebooks/n1');
    await vi.advanceTimersByTimeAsync(10_001);
    expect(early('/api/me', '')).toBeUndefined();
    vi.useRealTimers();
  });
});
