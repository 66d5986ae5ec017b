import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { joined } from '@/api/joined';
import openapi from '../../../docs/openapi.json';

const to = (path: string, method: string, body?: string) => new Request(`http://school.test${path}`, { method, body });
const idOf = (r: Request) => r.headers.get('Idempotency-Key') ?? '';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('what is written', () => {
  it('is sent once while it is under way and a moment after, then again', async () => {
    const sent: string[] = [];
    const ids: string[] = [];
    const send = joined(async (r) => {
      ids.push(idOf(r));
      sent.push(`${r.method} ${new URL(r.url).pathname}`);
      await new Promise((done) => setTimeout(done, 100));
      return new Response(`answer ${sent.length}`);
    });
    const notice = (text = 'goggles') => send(to('/notices', 'POST', text)).then((r) => r.text());
    const all = Promise.all([notice(), notice(), send(to('/shelf', 'GET')), send(to('/shelf', 'GET'))]);
    await vi.advanceTimersByTimeAsync(100);
    const [first, second] = await all;
    expect(first).toBe(second);
    expect(sent.filter((s) => s === 'POST /notices').length).toBe(1);
    await vi.advanceTimersByTimeAsync(690); // a bounce
    await notice();
    expect(sent.filter((s) => s === 'POST /notices').length).toBe(1);
    await vi.advanceTimersByTimeAsync(20); // and 710 ms after it a notice of its own
    const third = notice();
    await vi.advanceTimersByTimeAsync(100);
    await third;
    expect(new Set(ids.filter(Boolean)).size).toBe(2);
  });

  it('is sent again in its order: up, down, up', async () => {
    const sent: string[] = [];
    const send = joined(async (r) => (sent.push(await r.clone().text()), new Response()));
    for (const up of ['up', 'down', 'up']) await send(to('/hand', 'PUT', up));
    expect(sent).toEqual(['up', 'down', 'up']);
  });

  it('is done again where it was taken back in between', async () => {
    const sent: string[] = [];
    const send = joined(async (r) => (sent.push(r.method), new Response('{}')));
    const say = () => send(to('/comments', 'POST', 'x'));
    await say();
    await send(to('/comments/3', 'DELETE'));
    await say();
    await say();
    expect(sent).toEqual(['POST', 'DELETE', 'POST']);
  });

  it('keeps its id where its answer was lost, and has another where it is another', async () => {
    const ids: string[] = [];
    let fails: 'thrown' | 503 | undefined = 'thrown';
    const send = joined(async (r) => {
      ids.push(idOf(r));
      if (fails === 'thrown') throw new TypeError('no network');
      return new Response(null, { status: fails ?? 204 });
    });
    const comment = (text: string) => send(to('/comments', 'POST', text)).catch(() => undefined);
    await comment('x');
    fails = 503;
    await comment('x');
    fails = undefined;
    await vi.advanceTimersByTimeAsync(9 * 60_000 - 1);
    await comment('x');
    expect(new Set(ids).size).toBe(1);
    await vi.advanceTimersByTimeAsync(701);
    await comment('x');
    await comment('y');
    expect(new Set(ids).size).toBe(3);
  });
});

// Every submit of the program: each route by which something is written.
describe('each submit is sent once', () => {
  const writes = Object.entries(openapi.paths).flatMap(([path, methods]) =>
    Object.keys(methods)
      .filter((m) => ['post', 'put', 'delete'].includes(m))
      .map((m) => [m.toUpperCase(), path.replaceAll(/[{}]/g, '')] as const),
  );
  it.each(writes)('%s %s', async (method, path) => {
    const ids: string[] = [];
    const send = joined(async (r) => (ids.push(idOf(r)), new Response('{}')));
    const twice = () => send(to(path, method, method === 'DELETE' ? undefined : '{"a":1}'));
    await Promise.all([twice(), twice()]);
    expect(ids.length).toBe(1);
    await twice();
    expect(ids.length).toBe(path === '/session' ? 2 : 1); // signed in, out and in again
    const withId = method === 'POST' && !path.endsWith('/entries');
    expect(ids[0] !== '').toBe(withId);
  });
});
