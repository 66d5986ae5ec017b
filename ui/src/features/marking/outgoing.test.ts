// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest';
import { Offline, Problem } from '@/api/client';
import type { MarkSheet, NewAward } from '@/api/marking';
import { following, joined, makeOutgoing, together, type Going } from '@/features/marking/outgoing';

const of = (notebook: string, criterion: string, marks: number, follows = 0): Going => ({
  notebook,
  second: false,
  criterion,
  marks,
  follows,
});

describe('marks on their way', () => {
  it('a second thought takes the place of the first, unless the server may have that', () => {
    const going = [of('a', 'x', 1, 7), of('a', 'y', 1)];
    expect(joined(going, of('a', 'x', 2))).toEqual([of('a', 'x', 2, 7), of('a', 'y', 1)]);
    expect(joined([{ ...going[0]!, sent: true }], of('a', 'x', 2))).toHaveLength(2);
    const twice = [{ ...of('a', 'x', 1), sent: true }, of('a', 'x', 0)];
    expect(joined(twice, of('a', 'x', 2)).map((g) => g.marks)).toEqual([1, 2]);
    expect(joined(going, of('b', 'x', 2))).toHaveLength(3);
    expect(joined(going, { ...of('a', 'x', 2), second: true })).toHaveLength(3);
  });
  it('those of one report go together, each criterion once', () => {
    expect(together([])).toBe(0);
    expect(together([of('a', 'x', 1), of('a', 'y', 1), of('b', 'x', 1)])).toBe(2);
    expect(together([of('a', 'x', 1), of('a', 'x', 2)])).toBe(1);
    expect(together(Array.from({ length: 80 }, (_, i) => of('a', `c${i}`, 1)))).toBe(60);
  });
  it('what is still going follows what the server has made', () => {
    const rest = [of('a', 'x', 2), of('b', 'x', 1)];
    expect(following(rest, 'a', false, new Map([['x', 12]]))).toEqual([of('a', 'x', 2, 12), of('b', 'x', 1)]);
  });
});

type Row = { id: number; marks?: number; by: string };

/** A server: awards by report and criterion, each following the one before, as the program keeps them. */
function server() {
  const rows = new Map<string, Row[]>();
  let ids = 0;
  const sheet = (notebook: string): MarkSheet => {
    const lines = [...rows].filter(([k]) => k.startsWith(notebook + ' '));
    return { notebook, lines: lines.map(([k, r]) => ({ id: k.split(' ')[1], award: r.at(-1) })) } as never;
  };
  function take(notebook: string, awards: NewAward[], by: string): MarkSheet {
    const next = new Map([...rows].map(([k, r]) => [k, [...r]]));
    awards.forEach((a, i) => {
      const key = `${notebook} ${a.criterion}`;
      const kept = next.get(key) ?? [];
      const last = kept.at(-1);
      if ((last?.id ?? 0) !== a.follows) {
        const again = (kept.at(-2)?.id ?? 0) === a.follows && last?.marks === a.marks && last?.by === by;
        if (again) return;
        throw new Problem(422, 'somebody awarded this meanwhile', 'app.award-newer', `body.awards[${i}].criterion`);
      }
      next.set(key, [...kept, { id: ++ids, marks: a.marks, by }]);
    });
    for (const [k, r] of next) rows.set(k, r);
    return sheet(notebook);
  }
  return { rows, take };
}

/** A page of somebody over a disk and a server, with what is in between. */
function page(disk: Map<string, Going[]>, answers: (awards: NewAward[], notebook: string) => Promise<MarkSheet>) {
  const here = `${Math.random()}`;
  const pauses: (() => void)[] = [];
  const world = {
    person: 'p1',
    pauses,
    out: undefined as unknown as ReturnType<typeof makeOutgoing>,
  };
  world.out = makeOutgoing({
    who: () => world.person,
    takeOver: (who) => {
      const left = [...disk].filter(([k]) => k.startsWith(who + ' '));
      left.forEach(([k]) => disk.delete(k));
      return left.flatMap(([, g]) => g);
    },
    keep: (who, going) => void (going.length ? disk.set(`${who} ${here}`, going) : disk.delete(`${who} ${here}`)),
    send: (notebook, _, awards) => answers(awards, notebook),
    later: (then) => {
      pauses.push(then);
      return () => void (pauses.includes(then) && pauses.splice(pauses.indexOf(then), 1));
    },
  });
  return world;
}
/** How many orders are tried; all of them in make long. */
const schedules = process.env.LONG ? 1_000 : 300;
const rest = () => new Promise((r) => setTimeout(r));

describe('a marker’s window', () => {
  it('keeps what a session that ended, a proxy or no network holds up, and drops what is refused', async () => {
    for (const error of [new Offline(), new Problem(403, 'the proxy'), new Problem(401, 'over', 'web.not-signed-in')]) {
      const disk = new Map<string, Going[]>();
      const p = page(disk, () => Promise.reject(error));
      await p.out.takeUp(() => undefined);
      await p.out.give([of('a', 'x', 1)]);
      expect([p.out.state.waiting, p.out.state.offline, disk.size]).toEqual([1, true, 1]);
    }
    const disk = new Map<string, Going[]>();
    const s = server();
    s.take('a', [of('a', 'x', 3)], 'p2');
    const p = page(disk, async (awards, notebook) => s.take(notebook, awards, 'p1'));
    await p.out.takeUp(() => undefined);
    await p.out.give([of('a', 'x', 1), of('a', 'y', 2)]);
    expect(p.out.state.refused).toContain('meanwhile');
    expect([p.out.state.waiting, disk.size]).toEqual([0, 0]);
    expect(s.rows.get('a x')!.map((r) => r.marks)).toEqual([3]); // not overwritten
    expect(s.rows.get('a y')!.map((r) => r.marks)).toEqual([2]); // the others go
  });

  it('never sends one person’s marks as another’s', async () => {
    const disk = new Map<string, Going[]>();
    const sent: string[] = [];
    let cut = true;
    const p = page(disk, async (awards) => {
      if (cut) throw new Offline();
      sent.push(`${p.person} ${awards[0]!.criterion}`);
      return { notebook: 'a', lines: [] } as never;
    });
    await p.out.takeUp(() => undefined);
    await p.out.give([of('a', 'x', 1)]);
    cut = false;
    p.person = 'p2'; // signed out, and another in
    p.pauses.splice(0).forEach((then) => then());
    await rest();
    expect(sent).toEqual([]);
    await p.out.takeUp(() => undefined);
    await p.out.give([of('a', 'y', 1)]);
    expect(sent).toEqual(['p2 y']);
    p.person = 'p1';
    await p.out.takeUp(() => undefined);
    expect(sent).toEqual(['p2 y', 'p1 x']);
    expect(disk.size).toBe(0);
  });

  // Marks given in hundreds of random orders of cuts, lost answers, reloads and second thoughts:
  // the last one given stands, and nothing is awarded that was not given.
  it('loses, doubles and overwrites nothing', { timeout: 60_000 }, async () => {
    for (let seed = 1; seed <= schedules; seed++) {
      let state = seed;
      const random = (n: number) => {
        state = (state * 1103515245 + 12345) % 2147483648;
        return Math.floor((state / 2147483648) * n);
      };
      const s = server();
      const disk = new Map<string, Going[]>();
      let weather = 0;
      const answers = async (awards: NewAward[], notebook: string) => {
        const now = weather;
        await Promise.resolve();
        if (now === 1) throw new Offline();
        if (now === 3) throw new Problem(403, 'the proxy');
        const sheet = s.take(notebook, awards, 'p1');
        if (now === 2) throw new Offline(); // the answer is lost on the way
        return sheet;
      };
      let p = page(disk, answers);
      await p.out.takeUp(() => undefined);
      const meant = new Map<string, number>();
      const given = new Map<string, number>();
      for (let step = 0; step < 14; step++) {
        weather = random(4);
        const key = `${'ab'[random(2)]} ${'xyz'[random(3)]}`;
        const [notebook, criterion] = key.split(' ') as [string, string];
        const marks = random(5);
        const last = s.rows.get(key)?.at(-1)?.id ?? 0;
        meant.set(key, marks);
        given.set(key, (given.get(key) ?? 0) + 1);
        const sent = p.out.give([of(notebook, criterion, marks, last)]);
        if (random(2)) await sent;
        if (random(5) === 0) {
          await rest();
          p.person = ''; // this window is gone
          p = page(disk, answers);
          await p.out.takeUp(() => undefined);
        }
      }
      weather = 0;
      for (let n = 0; n < 20 && p.out.state.waiting; n++) {
        await rest();
        p.pauses.splice(0).forEach((then) => then());
        await rest();
      }
      await rest();
      expect([seed, p.out.state.waiting, p.out.state.refused, disk.size]).toEqual([seed, 0, '', 0]);
      for (const [key, marks] of meant) {
        expect([seed, key, s.rows.get(key)!.at(-1)!.marks]).toEqual([seed, key, marks]);
        expect(s.rows.get(key)!.length).toBeLessThanOrEqual(given.get(key)!);
      }
    }
  });
});
