// Asks the core, which runs beside the page and holds the notebooks that it was told
// of: only what is new goes there, only what differs comes back.
import { ref, watchSyncEffect } from 'vue';
import type { Entry, Notebook, Schemas } from '@/api/client';
import { changed, type Fields } from '@/notebook/change';

export type Judgement = { sheet?: Notebook['sheet']; fault?: string; at: number };
type Answer = {
  sheet?: Fields;
  fault?: string;
  doubt?: string;
  at: number;
  lost?: boolean;
  probe?: Schemas['LiveProbe'];
};

/** Whether the core is there. The page says so too (data-core), for whoever waits for it. */
export const coreReady = ref(false);
watchSyncEffect(() => (document.documentElement.dataset.core = coreReady.value ? 'ready' : ''));
/** Whether it could not be loaded when it was asked for last. */
export const coreFailed = ref(false);

let worker: Worker | undefined;
let count = 0;
const asked = new Map<number, (answer: Answer | undefined) => void>();
type Held = { basis: string; given: Set<string>; sheet: Fields; brief?: boolean };
const held = new Map<string, Held>();

/** Loads the core, so that it is there when the network is not. */
export function prepare() {
  if (worker) return;
  worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<{ ready?: true; id?: number; answer?: string }>) => {
    if (data.ready) {
      coreReady.value = true;
      coreFailed.value = false;
      return;
    }
    if (data.answer === undefined) drop();
    asked.get(data.id!)?.(data.answer === undefined ? undefined : (JSON.parse(data.answer) as Answer));
    asked.delete(data.id!);
  };
  worker.onerror = drop;
}

/** The core is gone: it is loaded anew at the next question. */
function drop() {
  worker?.terminate();
  worker = undefined;
  coreReady.value = false;
  coreFailed.value = true;
  held.clear();
  asked.forEach((done) => done(undefined));
  asked.clear();
}

function ask(request: unknown): Promise<Answer | undefined> {
  prepare();
  return new Promise((done) => {
    asked.set(++count, done);
    worker!.postMessage({ id: count, request: JSON.stringify(request) });
  });
}

/** What decides, there as on the server, what may be seen and added. */
const basisOf = ({ practical, sheet, role, marked, handedIn }: Notebook) => ({
  practical,
  style: sheet.style,
  teaches: role !== 'student',
  released: marked ?? false,
  handedIn: handedIn !== undefined,
});

/** What the core has to be told of a notebook, of which it may hold something already. */
function told(notebook: Notebook, added: Entry[]) {
  const basis = basisOf(notebook);
  const named = JSON.stringify([basis.practical.revision, notebook.sheet.withheld, { ...basis, practical: undefined }]);
  const all = new Set([...(notebook.entries ?? []), ...added].map((e) => e.id));
  let known = held.get(notebook.id);
  const anew = !known || known.basis !== named || [...known.given].some((id) => !all.has(id));
  if (anew) known = { basis: named, given: new Set(), sheet: {} };
  const fresh = (e: Entry) => !known!.given.has(e.id);
  const sent = (notebook.entries ?? []).filter(fresh);
  const entries = [...sent, ...added.filter(fresh)];
  return {
    known: known!,
    entries,
    request: { notebook: notebook.id, ...(anew && { basis }), entries, sent: sent.length },
  };
}

const judged = ({ sheet }: Held): Judgement => ({ sheet: sheet as unknown as Notebook['sheet'], at: -1 });

/** One question after the other: each builds on what the one before left. */
let turn: Promise<unknown> = Promise.resolve();
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = turn.then(work, work);
  turn = mine.catch(() => undefined);
  return mine;
}

/** What follows from a notebook with these entries added; undefined when the core could not be loaded. */
export const judge = (notebook: Notebook, added: Entry[], brief: boolean): Promise<Judgement | undefined> =>
  inTurn(async () => {
    for (let again = 0; again < 2; again++) {
      const { known, entries, request } = told(notebook, added);
      // Nothing new: what was answered last still holds.
      if (!request.basis && entries.length === 0 && known.brief === brief) return judged(known);
      const answer = await ask({ ...request, brief });
      if (!answer) return undefined;
      if (answer.lost) {
        held.delete(notebook.id);
        continue;
      }
      held.set(notebook.id, known);
      if (answer.fault !== undefined) {
        entries.slice(0, Math.max(0, answer.at)).forEach((e) => known.given.add(e.id));
        if (answer.at < 0) held.delete(notebook.id);
        return { fault: answer.fault, at: added.findIndex((e) => e.id === entries[answer.at]?.id) };
      }
      entries.forEach((e) => known.given.add(e.id));
      known.sheet = changed(known.sheet, answer.sheet ?? {});
      known.brief = brief;
      return judged(known);
    }
    return undefined;
  });

/** What a probe on a wire shows, after these lines of it. */
export async function judgeLines(notebook: Notebook, lines: string[]): Promise<Schemas['LiveProbe'] | undefined> {
  const request = { notebook: `probe ${notebook.id}`, lines, received: new Date().toISOString() };
  let got = await ask(request);
  if (got?.lost) got = await ask({ ...request, basis: basisOf(notebook) });
  return got?.probe;
}

/** What the core says of entries before they are held; undefined where there is no core to ask. */
const tried = (notebook: Notebook, before: Entry[], added: Entry[]): Promise<Answer | undefined> =>
  inTurn(async () => {
    if (!coreReady.value) return undefined;
    const { request } = told(notebook, [...before, ...added]);
    if (request.basis) held.delete(notebook.id); // the core begins anew, and holds nothing of it
    const answer = await ask({ ...request, try: true });
    return answer?.lost ? undefined : answer;
  });

/** Why entries could not be taken; '' where they can; undefined where there is no core to ask. */
export async function refusal(notebook: Notebook, before: Entry[], added: Entry[]): Promise<string | undefined> {
  if (!held.has(notebook.id)) return undefined; // not held yet; the server says it
  const answer = await tried(notebook, before, added);
  return answer && (answer.fault ?? '');
}

/** What a person is asked before entries are written; '' for nothing. */
export const doubtOf = async (notebook: Notebook, before: Entry[], added: Entry[]): Promise<string> =>
  (await tried(notebook, before, added))?.doubt ?? '';
