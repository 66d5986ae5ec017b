// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest';
import { Offline, Problem, type Entry } from '@/api/client';
import { pauseAfter } from '@/shared/sender';
import { makeQueue, outcomeOf, type Waiting } from './queue';

const entry = (n: number | string, at = `2026-11-24T10:00:0${Number(n) % 10}Z`) =>
  ({ id: `entry-${n}`, device: 'd', clock: Number(n), at, kind: 'note', note: { text: `note ${n}` } }) as Entry;
const own = (status: number, code: string, location = '') => new Problem(status, `said ${code}`, code, location);
const foreign = (status: number) => new Problem(status, 'something in between');

describe('what follows from an error', () => {
  const cases: [string, unknown, object][] = [
    ['no network', new Offline(), { what: 'later', offline: true, smaller: false }],
    ['a fault of the page', new TypeError('x'), { what: 'later', offline: false, smaller: false }],
    ...[400, 403, 404, 407, 408, 409, 422, 429, 502, 503].map((status): [string, unknown, object] => [
      `${status} of something in between`,
      foreign(status),
      { what: 'later', offline: false, smaller: false },
    ]),
    ['413 of something in between', foreign(413), { what: 'later', offline: false, smaller: true }],
    ['a 401 of a proxy', foreign(401), { what: 'later', offline: false, smaller: false }],
    ['the session is over', own(401, 'web.not-signed-in'), { what: 'stop' }],
    ['the session is another’s', own(409, 'web.other-person'), { what: 'stop' }],
    ['the password first', own(403, 'web.change-password-first'), { what: 'stop' }],
    ['this entry', own(422, 'reading.points', 'body.entries[3].reading.text'), { what: 'refused', at: 3 }],
    ['this entry’s id', own(409, 'entry.id-taken', 'body.entries[0].id'), { what: 'refused', at: 0 }],
    ['all entries', own(422, 'notebook.full', 'body.entries'), { what: 'held' }],
    ['the notebook', own(404, 'web.not-found'), { what: 'held' }],
    ['the right', own(403, 'web.forbidden'), { what: 'held' }],
    ['too much', own(429, 'app.too-much', 'body.entries[0]'), { what: 'later', offline: false, smaller: false }],
    ['a full disk', own(507, 'web.disk-full'), { what: 'later', offline: false, smaller: false }],
  ];
  it.each(cases)('%s', (_, error, outcome) => expect(outcomeOf(error)).toEqual(outcome));

  it('pauses grow to a minute', () => {
    expect([1, 2, 3, 7, 50].map((n) => pauseAfter(n, 0.5))).toEqual([1_000, 2_000, 4_000, 60_000, 60_000]);
    expect(pauseAfter(1, 0)).toBeLessThan(pauseAfter(1, 0.99));
  });
});

/** A device: what it keeps, and a queue over it. Its server is a function. */
type Server = (notebook: string, entries: Entry[], as: string) => Promise<void>;

function device(disk = new Map<string, Waiting>(), person = 'p1', server: Server = async () => undefined) {
  const pauses: { then: () => void; ms: number }[] = [];
  const d = {
    disk,
    pauses,
    stops: 0,
    sent: [] as { notebook: string; entries: Entry[] }[],
    server,
    queue: makeQueue({
      keep: (place, value) => void disk.set(place, JSON.parse(JSON.stringify(value)) as Waiting),
      drop: (place) => void disk.delete(place),
      kept: (prefix) => [...disk].filter(([place]) => place.startsWith(prefix)).map(([, value]) => value),
      send: async (notebook, entries) => {
        d.sent.push({ notebook, entries });
        await d.server(notebook, entries, d.queue.person.value);
      },
      stopped: () => void d.stops++,
      later: (then, ms) => {
        const pause = { then, ms };
        pauses.push(pause);
        return () => void pauses.splice(pauses.indexOf(pause), pauses.includes(pause) ? 1 : 0);
      },
      random: () => 0.5,
    }),
  };
  d.queue.open(person);
  return d;
}

const unsent = (d: { disk: Map<string, Waiting> }) => [...d.disk.values()].filter((w) => !w.sent);

describe('what was recorded', () => {
  it('is kept before it is sent, and taken out when the server has it', async () => {
    const d = device();
    d.server = async () => expect([...d.disk.keys()]).toEqual(['exactflask.outbox.p1.entry-1']);
    await d.queue.add('n1', [entry(1)]);
    expect(unsent(d)).toEqual([]);
    expect(d.queue.waiting.value).toEqual([]);
  });

  it('stays as sent until a copy here holds it, in every window, and is never sent again', async () => {
    const d = device();
    await d.queue.add('n1', [entry(1)]);
    await d.queue.add('n2', [entry(2)]);
    const again = device(d.disk);
    for (const { queue } of [d, again]) {
      expect([queue.all.value, queue.waitingFor('n1'), queue.refused.value]).toEqual([[], [], []]);
      expect(queue.typedFor('n1').map((e) => e.id)).toEqual(['entry-1']);
      expect(queue.unsettled()).toEqual(['n1', 'n2']);
    }
    expect(again.sent).toEqual([]);
    again.queue.settle('n1');
    d.queue.load();
    expect([d.queue.typedFor('n1'), d.queue.unsettled()]).toEqual([[], ['n2']]);
    d.server = () => Promise.reject(new Offline());
    await d.queue.add('n2', [entry(3)]);
    d.queue.settle('n2', new Set(['entry-3']));
    expect(d.queue.unsettled(), 'the copy did not hold the other').toEqual(['n2']);
    d.queue.settle('n2');
    expect(
      unsent(d).map((w) => w.entry.id),
      'what waits is not settled',
    ).toEqual(['entry-3']);
    expect(d.disk.size).toBe(1);
  });

  it('waits through whatever is in between, with growing pauses, in its order', async () => {
    const d = device();
    for (const [i, error] of [new Offline(), foreign(403), foreign(404), foreign(408), foreign(502)].entries()) {
      d.server = () => Promise.reject(error);
      await d.queue.add('n1', [entry(i + 1)]);
    }
    expect(d.disk.size).toBe(5);
    expect(d.queue.refused.value).toEqual([]);
    expect(d.pauses.map((p) => p.ms)).toEqual([16_000]);
    d.server = async () => undefined;
    d.pauses[0]!.then();
    await d.queue.send();
    expect(d.sent.at(-1)!.entries.map((e) => e.id)).toEqual([1, 2, 3, 4, 5].map((n) => `entry-${n}`));
    expect(unsent(d)).toEqual([]);
  });

  it('is sent in smaller parts where something finds it too large', async () => {
    const d = device();
    d.server = (_, entries) => (entries.length > 2 ? Promise.reject(foreign(413)) : Promise.resolve());
    await d.queue.add(
      'n1',
      [1, 2, 3, 4, 5].map((n) => entry(n)),
    );
    while (d.pauses.length) {
      d.pauses.shift()!.then();
      await d.queue.send();
    }
    expect(unsent(d)).toEqual([]);
  });

  it('that the program refuses is parted alone, stays, can be mended, and goes only on purpose', async () => {
    const d = device();
    d.server = (_, entries) => {
      const bad = entries.findIndex((e) => e.note?.text === 'note 2');
      return bad < 0 ? Promise.resolve() : Promise.reject(own(422, 'x', `body.entries[${bad}].note.text`));
    };
    await d.queue.add('n1', [entry(1), entry(2), entry(3)]);
    expect(d.queue.waiting.value).toEqual([]);
    expect(d.queue.refused.value.map((r) => [r.why, r.entries.map((e) => e.id)])).toEqual([['said x', ['entry-2']]]);
    expect(unsent(d).map((w) => w.why)).toEqual(['said x']);
    expect(device(d.disk).queue.refused.value, 'in another window too').toHaveLength(1);
    await d.queue.resend(d.queue.refused.value[0]!);
    expect(d.queue.refused.value, 'as it was: refused again').toHaveLength(1);
    await d.queue.resend(d.queue.refused.value[0]!, [{ ...entry(2), id: 'entry-2b', note: { text: 'mended' } }]);
    expect(unsent(d)).toEqual([]);
    await d.queue.add('n1', [entry(2)]);
    d.queue.giveUp(d.queue.refused.value[0]!);
    expect(unsent(d)).toEqual([]);
  });

  it('in one go is refused in one go', async () => {
    const d = device();
    d.server = () => Promise.reject(own(422, 'x', 'body.entries[1].reading.text'));
    await d.queue.add('n1', [entry(1, '2026-11-24T10:00:00Z'), entry(2, '2026-11-24T10:00:00Z')]);
    expect(d.queue.refused.value[0]!.entries).toHaveLength(2);
  });

  it('for a notebook that takes nothing does not hold another up', async () => {
    const d = device();
    d.server = (notebook) => (notebook === 'n1' ? Promise.reject(own(404, 'web.not-found')) : Promise.resolve());
    await d.queue.add('n1', [entry(1), entry(2)]);
    await d.queue.add('n2', [entry(3)]);
    expect(d.queue.waitingFor('n1')).toHaveLength(2);
    expect(d.queue.waitingFor('n2')).toEqual([]);
    expect(d.queue.heldWhy.value['n1']).toBe('said web.not-found');
    d.queue.rename('n1', 'n2');
    await d.queue.send();
    expect(unsent(d)).toEqual([]);
  });

  it('of another person on this device stays theirs, also while it is on its way', async () => {
    const d = device();
    d.server = () => Promise.reject(own(401, 'web.not-signed-in'));
    await d.queue.add('n1', [entry(1)]);
    expect(d.stops).toBe(1);
    let arrive = () => {};
    d.server = () => new Promise((done) => (arrive = done));
    const sending = d.queue.send();
    d.queue.open('p2');
    expect(d.queue.all.value).toEqual([]);
    arrive();
    await sending;
    expect([...d.disk.keys()]).toEqual(['exactflask.outbox.p1.entry-1']);
    expect(unsent(d)).toHaveLength(1);
  });
});

// Two devices and two people write in one notebook of each, with everything in
// between that can go wrong; in the end, what was typed is there once, under the name
// of who typed it.
/** Of make long, 1,000. */
const schedules = process.env.LONG ? 1_000 : 300;

describe('random schedules', () => {
  function random(seed: number) {
    return () => {
      seed = (seed + 0x6d2b79f5) | 0;
      let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
      t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
      return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
    };
  }
  const people = ['p1', 'p2'];

  async function schedule(seed: number) {
    const next = random(seed);
    const pick = <T>(of: T[]): T => of[Math.floor(next() * of.length)]!;
    const journal: Entry[] = [];
    const typed: { id: string; by: string }[] = [];
    let network: 'up' | 'cut' | 'proxy' | 'slow' = 'up';
    let clock = 0;
    // Each device has its own session, as a browser has its own cookie.
    const devices = [0, 1].map(() => ({ d: device(), session: 'p1' as string, at: 'p1' }));
    const serve = (place: (typeof devices)[number]) => async (_: string, entries: Entry[], as: string) => {
      if (network === 'slow') await new Promise((done) => setTimeout(done));
      if (network === 'cut') throw new Offline();
      if (network === 'proxy') throw foreign(pick([400, 401, 403, 404, 408, 413, 429, 502]));
      if (place.session === '') throw own(401, 'web.not-signed-in');
      if (place.session !== as) throw own(409, 'web.other-person');
      for (const [i, e] of entries.entries()) {
        if (e.author !== place.session) throw own(422, 'entry.other-author', `body.entries[${i}].author`);
        if (e.note!.text === 'bad') throw own(422, 'remark.empty', `body.entries[${i}].note.text`);
      }
      for (const e of entries) if (!journal.some((old) => old.id === e.id)) journal.push(e);
      if (next() < 0.1) throw new Offline(); // written, and the answer lost
    };
    for (const place of devices) place.d.server = serve(place);
    for (let step = 0; step < 40; step++) {
      const place = pick(devices);
      const { d } = place;
      switch (pick(['type', 'type', 'type', 'bad', 'network', 'end', 'reload', 'other', 'wait', 'window'])) {
        case 'type':
        case 'bad': {
          const id = `s${seed}-${step}`;
          const text = step % 11 === 0 ? 'bad' : 'good';
          typed.push({ id, by: place.at });
          const at = new Date(1_700_000_000_000 + step * 1_000).toISOString();
          const e = { id, author: place.at, device: 'd', clock: ++clock, at, kind: 'note', note: { text } } as Entry;
          void d.queue.add('n-' + place.at, [e]);
          break;
        }
        case 'network':
          network = pick(['up', 'cut', 'proxy', 'slow']);
          break;
        case 'end':
          place.session = ''; // ended somewhere else; the page hears of it when it asks
          break;
        case 'other': // somebody signs in on this device
          place.session = place.at = pick(people);
          d.queue.open(place.at);
          break;
        case 'reload': // or a new version: the page is made anew from what the device keeps
        case 'window': {
          place.d = device(d.disk, place.at, serve(place));
          break;
        }
        case 'wait':
          await new Promise((done) => setTimeout(done));
          d.pauses.shift()?.then();
      }
      if (next() < 0.5) await Promise.resolve();
    }
    // In the end there is a network, and each comes back to where they wrote.
    network = 'up';
    for (const place of devices)
      for (const who of people) {
        place.session = place.at = who;
        place.d.queue.open(who);
        for (let tries = 0; place.d.queue.waiting.value.length && tries < 50; tries++) await place.d.queue.send();
      }
    const refused = devices.flatMap(({ d }) => unsent(d));
    for (const { id, by } of typed) {
      const there = journal.filter((e) => e.id === id);
      const kept = refused.filter((w) => w.entry.id === id);
      expect(there.length + kept.length, `${id} of schedule ${seed}`).toBe(1);
      expect(there[0]?.author ?? kept[0]!.entry.author).toBe(by);
      if (kept.length) expect(kept[0]!.entry.note!.text).toBe('bad');
    }
    expect(journal).toHaveLength(new Set(journal.map((e) => e.id)).size);
    return typed.length;
  }

  it('lose nothing and write nothing twice', async () => {
    let typed = 0;
    for (let seed = 1; seed <= schedules; seed++) typed += await schedule(seed);
    expect(typed).toBeGreaterThan(10 * schedules);
  }, 120_000);
});
