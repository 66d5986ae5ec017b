// Marks on their way: each stays on this device until the server has it, in the order in
// which they were given. One that the server refuses is told of, and is not sent again.
import { reactive, ref } from 'vue';
import { Problem } from '@/api/client';
import { award, type MarkSheet, type NewAward } from '@/api/marking';
import { mine } from '@/device/owner';
import { readValue, remove, write } from '@/device/storage';

/** An award on its way. */
export type Going = NewAward & { notebook: string; second: boolean };

const place = () => mine('draft') + 'marks-going';
const pause = 3_000;

/** Adds to what is going; what was given for the same criterion and is not under way yet is replaced. */
export function joined(going: Going[], added: Going, under: number): Going[] {
  const at = going.findLastIndex(
    (g, i) =>
      i >= under && g.notebook === added.notebook && g.second === added.second && g.criterion === added.criterion,
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

const going = ref<Going[]>([]);
let under = 0; // so many are with the server now
/** What a marker is told: whether marks wait for the network, and what was refused. */
export const state = reactive({ waiting: 0, offline: false, refused: '' });
let told: ((sheet: MarkSheet) => void) | undefined;
let owner = '';
let timer = 0;

function keep(now: Going[]) {
  going.value = now;
  state.waiting = now.length;
  if (now.length) write(place(), now);
  else remove(place());
}

/** Takes up what was left here by this person, and hears what the server makes of it. */
export function takeUp(hear: (sheet: MarkSheet) => void) {
  told = hear;
  if (owner === mine('draft')) return;
  owner = mine('draft');
  under = 0;
  keep(readValue<Going[]>(place()) ?? []);
  void send();
}

/** Sends awards, each kept here until the server has it. */
export function give(added: Going[]) {
  state.refused = '';
  keep(added.reduce((now, a) => joined(now, a, under), going.value));
  void send();
}

/** What was given for a report and is not with the server yet. */
export const goingFor = (notebook: string, second: boolean) =>
  going.value.filter((g) => g.notebook === notebook && g.second === second);

async function send() {
  if (under || !going.value.length) return;
  clearTimeout(timer);
  under = together(going.value);
  const now = going.value.slice(0, under);
  const { notebook, second } = now[0]!;
  try {
    const sheet = await award(
      notebook,
      second,
      now.map(({ criterion, marks, comment, undo, follows }) => ({ criterion, marks, comment, undo, follows })),
    );
    const ids = new Map(sheet.lines.map((l) => [l.id, l.award?.id ?? 0]));
    const rest = following(going.value.slice(under), notebook, second, ids);
    under = 0;
    state.offline = false;
    keep(rest);
    told?.(sheet);
  } catch (e) {
    const sent = under;
    under = 0;
    if (e instanceof Problem && e.own && e.status < 500 && e.status !== 429) {
      // None of them was taken: what the server refuses is not sent again.
      const at = Number(/awards\[(\d+)\]/.exec(e.location)?.[1] ?? -1);
      keep(at >= 0 ? going.value.filter((_, i) => i !== at) : going.value.slice(sent));
      state.refused = e.message;
      told?.(undefined as never);
    } else {
      state.offline = true;
      timer = window.setTimeout(() => void send(), pause);
      return;
    }
  }
  void send();
}
