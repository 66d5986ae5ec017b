import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { createApp } from 'vue';
import { api, type Entry, type Notebook } from '@/api/client';
import { useOutbox } from './outbox';

vi.mock('@/notebook/judge', () => ({ judge: vi.fn(async () => undefined), prepare: vi.fn() }));

const entry = (n: number, at = '2026-11-24T10:00:00Z') =>
  ({ id: `entry-${n}`, device: 'd', clock: n, at, kind: 'note', note: { text: `note ${n}` } }) as Entry;
const notebook = { id: 'n1', sheet: { entries: 1 } } as Notebook;
const took = { data: notebook, response: new Response(null, { status: 200 }) };
const refused = (status: number, detail: string) => ({ error: { detail }, response: new Response(null, { status }) });

async function outbox(person = 'p1') {
  const app = createApp({});
  const pinia = createPinia();
  app.use(pinia).use(VueQueryPlugin, { queryClient: new QueryClient() });
  setActivePinia(pinia);
  const box = app.runWithContext(() => useOutbox());
  box.open(person);
  await box.send(); // what was left from before
  return box;
}
const onDevice = () => Object.keys(localStorage).filter((k) => k.startsWith('exactflask.outbox.'));

describe('what was recorded', () => {
  const post = vi.spyOn(api, 'POST');
  beforeEach(() => {
    localStorage.clear();
    post.mockReset();
    vi.stubGlobal('requestIdleCallback', (f: () => void) => f());
  });

  it('is kept before it is sent, and taken out when the server has it', async () => {
    const box = await outbox();
    post.mockImplementation(async () => {
      expect(onDevice()).toEqual(['exactflask.outbox.p1.entry-1']);
      return took as never;
    });
    expect(await box.add('n1', [entry(1)])).toBeUndefined();
    expect(box.pending).toBe(0);
    expect(onDevice()).toEqual([]);
  });

  it('waits while there is no network, also for the next window', async () => {
    const box = await outbox();
    post.mockRejectedValue(new TypeError('no network'));
    await box.add('n1', [entry(1)]);
    await box.add('n1', [entry(2)]);
    expect(box.trouble).toBe('offline');
    expect(box.pending).toBe(2);

    post.mockResolvedValue(took as never);
    const next = await outbox();
    expect(next.pending).toBe(0);
    const sent = (post.mock.lastCall as unknown as [string, { body: { entries: Entry[] } }])[1].body.entries;
    expect(sent.map((e) => e.id)).toEqual(['entry-1', 'entry-2']);
  });

  it('of another person on this device stays theirs', async () => {
    const box = await outbox();
    post.mockRejectedValue(new TypeError('no network'));
    await box.add('n1', [entry(1)]);
    box.open('p2');
    expect(box.pending).toBe(0);
    expect(onDevice()).toHaveLength(1);
  });

  it('that is refused is told to who typed it, and does not wait', async () => {
    const box = await outbox();
    post.mockResolvedValue(refused(422, 'entries[0].note.text: too long') as never);
    const answer = await box.add('n1', [entry(1)]);
    expect(answer?.why).toBe('entries[0].note.text: too long');
    expect(box.pending).toBe(0);
    expect(box.refused).toEqual([]);
  });

  it('that is bad does not hold up what is good', async () => {
    const box = await outbox();
    post.mockRejectedValue(new TypeError('no network'));
    await box.add('n1', [entry(1)]);
    await box.add('n1', [entry(2, '2026-11-24T10:00:05Z')]);
    post.mockImplementation((async (_: string, { body }: { body: { entries: Entry[] } }) =>
      body.entries.some((e) => e.id === 'entry-1') ? refused(422, 'no') : took) as never);
    await box.send();
    expect(box.pending).toBe(0);
    expect(box.refused.flatMap((r) => r.entries.map((e) => e.id))).toEqual(['entry-1']);
  });

  it('right after a send that had nothing to do is sent', async () => {
    const box = await outbox();
    post.mockResolvedValue(took as never);
    void box.send();
    await box.add('n1', [entry(1)]);
    expect(box.pending).toBe(0);
  });

  it('stays when the session has ended', async () => {
    const box = await outbox();
    post.mockResolvedValue(refused(401, 'sign in again') as never);
    await box.add('n1', [entry(1)]);
    expect(box.trouble).toBe('signed-out');
    expect(onDevice()).toHaveLength(1);
  });
});
