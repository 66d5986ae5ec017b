// Marks on their way: each stays on this device until the server has it, in the order in
// which they were given. One that the server refuses is told of, and is not sent again.
import { reactive } from 'vue';
import { Problem } from '@/api/client';
import { award, type MarkSheet, type NewAward } from '@/api/marking';
import { mine } from '@/device/owner';
import { places, readValue, remove, write } from '@/device/storage';
import { laterHere, makeSender } from '@/shared/sender';

/** An award on its way. Once it was sent the server may have it, whatever was heard of it. */
export type Going = NewAward & { notebook: string; second: boolean; sent?: boolean };

/** Adds to what is going; what was given for the same criterion and was never sent is replaced. */
export function joined(going: Going[], added: Going): Going[] {
  const at = going.findLastIndex(
    (g) => !g.sent && g.notebook === added.notebook && g.second === added.second && g.criterion === added.criterion,
  );
  if (at < 0) return [...going, added];
  return going.map((g, i) => (i === at ? { ...added, follows: g.follows } : g));
}

/** How many from the first on go together: those of one report, each criterion once. */
export function together(going: Going[]): number {
  const first = going[0];
  const seen = new Set<string>();
  let n = 0;
  for (const g of going) {
    if (g.notebook !== first?.notebook || g.second !== first.second || seen.has(g.criterion)) break;
    seen.add(g.criterion);
    n++;
  }
  return Math.min(n, 60);
}

/** What is still going follows the awards that the server has just made. */
export function following(going: Going[], notebook: string, second: boolean, ids: Map<string, number>): Going[] {
  return going.map((g) =>
    g.notebook === notebook && g.second === second && ids.has(g.criterion)
      ? { ...g, follows: ids.get(g.criterion)! }
      : g,
  );
}

/** The program refuses the award itself; anything else, a session that ended too, is waited out. */
const refusals = [404, 422];

/** What it stands on: the device, the server, the clock, who is here. */
type World = {
  who: () => string;
  /** What was kept for somebody, here and by windows that are gone; it is handed over. */
  takeOver: (who: string) => Going[];
  keep: (who: string, going: Going[]) => void;
  send: (notebook: string, second: boolean, awards: NewAward[]) => Promise<MarkSheet>;
  later: (then: () => void, ms: number) => () => void;
};

export function makeOutgoing(world: World) {
  /** What a marker is told: whether marks wait for the network, and what was refused. */
  const state = reactive({ waiting: 0, offline: false, refused: '' });
  let going: Going[] = [];
  let under = 0; // so many are with the server now
  let told: ((sheet?: MarkSheet) => void) | undefined;
  let owner = '';

  function keep(now: Going[]) {
    going = now;
    state.waiting = now.length;
    world.keep(owner, now);
  }

  /** Takes up what was left here by whoever is here, and hears what the server makes of it. */
  function takeUp(hear: (sheet?: MarkSheet) => void) {
    told = hear;
    if (owner !== world.who()) {
      owner = world.who();
      under = 0;
      sender.reset();
      Object.assign(state, { offline: false, refused: '' });
      keep(world.takeOver(owner));
    }
    return sender.send();
  }

  /** Sends awards, each kept here until the server has it. */
  function give(added: Going[]) {
    state.refused = '';
    keep(added.reduce((now, a) => joined(now, a), going));
    return sender.send();
  }

  /** What was given for a report and is not with the server yet. */
  const goingFor = (notebook: string, second: boolean) =>
    going.filter((g) => g.notebook === notebook && g.second === second);

  /** What goes together next: from then on the server may have it. */
  function next(): Going[] | undefined {
    // Somebody else is here now: what the first gave waits for them, on this device.
    if (owner !== world.who() || !going.length) return undefined;
    under = together(going);
    keep(going.map((g, i) => (i < under ? { ...g, sent: true } : g)));
    return going.slice(0, under);
  }

  const sender = makeSender<Going[], MarkSheet>({
    who: () => owner,
    next,
    give: (now) =>
      world.send(
        now[0]!.notebook,
        now[0]!.second,
        now.map(({ criterion, marks, comment, undo, follows }) => ({ criterion, marks, comment, undo, follows })),
      ),
    took(now, sheet) {
      const ids = new Map(sheet.lines.map((l) => [l.id, l.award?.id ?? 0]));
      const rest = following(going.slice(under), now[0]!.notebook, now[0]!.second, ids);
      under = 0;
      state.offline = false;
      keep(rest);
      told?.(sheet);
    },
    failed(now, e) {
      under = 0;
      if (!(e instanceof Problem && e.own && refusals.includes(e.status))) {
        state.offline = true;
        return 'later';
      }
      // None of them was taken: what the server refuses is not sent again.
      const at = Number(/awards\[(\d+)\]/.exec(e.location)?.[1] ?? -1);
      keep(going.filter((_, i) => (at >= 0 ? i !== at : i >= now.length)));
      state.refused = e.message;
      told?.();
      return 'next';
    },
    later: world.later,
    random: Math.random,
  });
  return { state, takeUp, give, goingFor, send: sender.send };
}

/** Each window keeps its own; what one left behind the next takes up. */
const here = Math.random().toString(36).slice(2);
const all = (who: string) => who + 'marks-going.';

export const { state, takeUp, give, goingFor } = makeOutgoing({
  who: () => mine('draft'),
  takeOver: (who) => {
    const left = places(all(who));
    const out = left.flatMap((place) => readValue<Going[]>(place) ?? []);
    left.forEach(remove);
    return out;
  },
  keep: (who, going) => (going.length ? write(all(who) + here, going) : remove(all(who) + here)),
  send: award,
  later: laterHere,
});
