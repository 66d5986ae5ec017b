// What was typed and is not with the server yet. Kept before it is sent; when it is
// acknowledged it stays, as sent, until a copy of the notebook that holds it is kept
// here. Only the program's own refusal of an entry parts it from the others; then it
// stays, with the reason. Every entry has a place of its own, so that two windows never
// overwrite each other's.
import { computed, ref, shallowRef } from 'vue';
import { Offline, Problem, type Entry } from '@/api/client';
import { makeSender, type After } from '@/shared/sender';

export type Waiting = { notebook: string; entry: Entry; why?: string; sent?: true };
/** What was done in one go, and was refused. */
export type Refused = { notebook: string; entries: Entry[]; why: string };

export type Outcome =
  | { what: 'refused'; at: number } // the entry at this place is refused
  | { what: 'held' } // this notebook takes nothing now
  | { what: 'later'; offline: boolean; smaller: boolean } // nothing arrives now
  | { what: 'stop' }; // the session is over, or another's

const sessions = ['web.not-signed-in', 'web.other-person', 'web.change-password-first'];

/** What follows from an error of sending. */
export function outcomeOf(error: unknown): Outcome {
  if (!(error instanceof Problem)) return { what: 'later', offline: error instanceof Offline, smaller: false };
  if (sessions.includes(error.code)) return { what: 'stop' };
  const smaller = error.status === 413;
  if (!error.own || smaller || error.status >= 500 || error.status === 429)
    return { what: 'later', offline: false, smaller };
  const entry = /^body\.entries\[(\d+)\]/.exec(error.location);
  if (entry && (error.status === 422 || error.status === 409)) return { what: 'refused', at: Number(entry[1]) };
  return { what: 'held' };
}

export type Surroundings = {
  keep: (place: string, value: Waiting) => void;
  drop: (place: string) => void;
  kept: (prefix: string) => Waiting[];
  send: (notebook: string, entries: Entry[]) => Promise<void>;
  stopped: (error: unknown) => void;
  later: (then: () => void, ms: number) => () => void; // returns how to call it off
  random: () => number;
};

type Batch = { notebook: string; entries: Entry[] };

const most = 200; // entries sent at once

/** Whether two entries were written in one go: a trial with its first reading. */
const together = (a: Entry, b: Entry) => a.at === b.at && a.device === b.device;

const inOrder = (a: Waiting, b: Waiting) => a.entry.clock - b.entry.clock || a.entry.id.localeCompare(b.entry.id);

export function makeQueue(around: Surroundings) {
  const person = ref('');
  const held = shallowRef<Waiting[]>([]);
  const trouble = ref<'' | 'offline' | 'failing' | 'stopped'>('');
  const why = ref(''); // in the server's words
  const heldWhy = shallowRef<Record<string, string>>({}); // by notebook
  let batch = most;
  const passed = new Set<string>(); // notebooks that take nothing now

  const prefix = () => `exactflask.outbox.${person.value}.`;
  const all = computed(() => held.value.filter((w) => !w.sent));
  const waiting = computed(() => all.value.filter((w) => w.why === undefined));
  /** What waits for a notebook that takes nothing now. */
  const heldBack = computed(() => waiting.value.filter((w) => heldWhy.value[w.notebook]));
  const refused = computed(() => {
    const out: Refused[] = [];
    for (const w of all.value.filter((w) => w.why !== undefined)) {
      const same = out.find((r) => r.notebook === w.notebook && together(r.entries[0]!, w.entry));
      if (same) same.entries.push(w.entry);
      else out.push({ notebook: w.notebook, entries: [w.entry], why: w.why! });
    }
    return out;
  });

  /** What another window has taken out or refused is so here as well. */
  function load() {
    held.value = around.kept(prefix()).sort(inOrder);
  }

  /** Takes over what this device holds of a person ('' of nobody), and sends it. */
  function open(id: string) {
    sender.reset();
    person.value = id;
    trouble.value = '';
    batch = most;
    heldWhy.value = {};
    if (id) load();
    else held.value = [];
    void send();
  }

  function put(...ws: Waiting[]) {
    ws.forEach((w) => around.keep(prefix() + w.entry.id, w));
    const ids = new Set(ws.map((w) => w.entry.id));
    held.value = [...held.value.filter((w) => !ids.has(w.entry.id)), ...ws].sort(inOrder);
  }

  function out(entries: Entry[]) {
    const ids = new Set(entries.map((e) => e.id));
    ids.forEach((id) => around.drop(prefix() + id));
    held.value = held.value.filter((w) => !ids.has(w.entry.id));
  }

  /** The server has these. Until a copy here holds them they are what follows its entries. */
  function acknowledged(entries: Entry[]) {
    const ids = new Set(entries.map((e) => e.id));
    put(...held.value.filter((w) => ids.has(w.entry.id)).map((w) => ({ ...w, sent: true as const })));
  }

  /** A copy of a notebook is kept here that holds these entries; without them, all that was acknowledged. */
  function settle(notebook: string, holds?: Set<string>) {
    const mine = held.value.filter((w) => w.sent && w.notebook === notebook && (holds?.has(w.entry.id) ?? true));
    out(mine.map((w) => w.entry));
  }

  function refuse(notebook: string, entries: Entry[], why: string) {
    put(...entries.map((entry) => ({ notebook, entry, why })));
  }

  /** Keeps entries, and tries to send them. */
  function add(notebook: string, entries: Entry[]): Promise<void> {
    put(...entries.map((entry) => ({ notebook, entry })));
    return send();
  }

  /** Sends what waits; now, whatever pause was made. */
  function send(): Promise<void> {
    if (!person.value || waiting.value.length === 0) return Promise.resolve();
    return sender.send();
  }

  function nextBatch(): Batch | undefined {
    const first = waiting.value.find((w) => !passed.has(w.notebook));
    if (!first) return undefined;
    const mine = waiting.value.filter((w) => w.notebook === first.notebook).map((w) => w.entry);
    const entries: Entry[] = [];
    for (const e of mine) {
      if (entries.length >= batch && !together(entries.at(-1)!, e)) break;
      entries.push(e);
    }
    return { notebook: first.notebook, entries };
  }

  /** What follows from a batch that did not arrive. */
  function failed({ notebook, entries }: Batch, error: unknown): After {
    const outcome = outcomeOf(error);
    const said = error instanceof Error ? error.message : '';
    switch (outcome.what) {
      case 'stop':
        trouble.value = 'stopped';
        around.stopped(error);
        return 'stop';
      case 'refused': {
        const bad = entries[outcome.at];
        if (bad) {
          const withIt = entries.filter((e) => together(e, bad));
          refuse(notebook, withIt, said);
        }
        return 'next';
      }
      case 'held':
        if (entries.some((e) => !together(e, entries[0]!))) {
          batch = 1; // what is at fault must not hold the others up
          return 'next';
        }
        heldWhy.value = { ...heldWhy.value, [notebook]: said };
        passed.add(notebook);
        return 'next';
      case 'later':
        if (outcome.smaller) batch = Math.max(1, Math.floor(entries.length / 2));
        trouble.value = outcome.offline ? 'offline' : 'failing';
        why.value = said;
        return 'later';
    }
  }

  const sender = makeSender<Batch, void>({
    who: () => person.value,
    begin: () => passed.clear(),
    next: nextBatch,
    give: ({ notebook, entries }) => around.send(notebook, entries),
    took({ notebook, entries }) {
      trouble.value = '';
      batch = most;
      if (heldWhy.value[notebook]) heldWhy.value = { ...heldWhy.value, [notebook]: '' };
      acknowledged(entries);
    },
    failed,
    passed: () => passed.size > 0,
    later: around.later,
    random: around.random,
  });

  /** Sends refused entries once more, as they are or as they were mended. */
  function resend(r: Refused, mended: Entry[] = r.entries): Promise<void> {
    const kept = new Set(mended.map((e) => e.id));
    put(...mended.map((entry) => ({ notebook: r.notebook, entry })));
    out(r.entries.filter((e) => !kept.has(e.id)));
    return send();
  }

  /** A notebook that was begun without the network is another one on the server. */
  function rename(from: string, to: string) {
    put(...held.value.filter((w) => w.notebook === from).map((w) => ({ ...w, notebook: to })));
  }

  const waitingFor = (notebook: string) => waiting.value.filter((w) => w.notebook === notebook).map((w) => w.entry);

  /** Everything typed here for a notebook that the server has, or may take. */
  const typedFor = (notebook: string) =>
    held.value.filter((w) => w.notebook === notebook && w.why === undefined).map((w) => w.entry);

  const inOneGo = (entry: Entry) => waiting.value.map((w) => w.entry).filter((e) => together(e, entry));

  return {
    inOneGo,
    person,
    all,
    waiting,
    refused,
    trouble,
    why,
    heldWhy,
    heldBack,
    open,
    load,
    add,
    send,
    refuse,
    resend,
    rename,
    waitingFor,
    typedFor,
    settle,
    /** The notebooks of which something is kept that the server has. */
    unsettled: () => [...new Set(held.value.filter((w) => w.sent).map((w) => w.notebook))],
    giveUp: (r: Refused) => out(r.entries),
  };
}
