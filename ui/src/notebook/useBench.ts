// What a person does at the bench, made into entries. What is right or next is
// the core's business; here things are only written down.
import { v7 as uuid } from 'uuid';
import { computed, type Ref } from 'vue';
import type { Entry, Notebook, Schemas, Trial } from '@/api/client';
import { readValue, write } from '@/device/storage';
import { doubtOf } from '@/notebook/judge';
import { useOutbox } from '@/notebook/outbox';
import { useSession } from '@/session/session';

export type TrialType = Trial['type'];
export type Mark = Schemas['Scale']['mark'];
export type Observed = Schemas['Observation']['about'];
export type Timed = Schemas['Timer']['for'];

const devicePlace = 'exactflask.device';

function device(): string {
  const known = readValue<string>(devicePlace);
  if (known) return known;
  const id = uuid();
  write(devicePlace, id);
  return id;
}

/** What may be said of a point beside its two readings. */
export type PointMore = Pick<Schemas['ProbePoint'], 'colour' | 'temperature' | 'source' | 'unsteady'>;

const atOnce = 150;

export type Part = Omit<Entry, 'id' | 'device' | 'clock' | 'at' | 'author'> & { id?: string };

export function useBench(notebook: Ref<Notebook>) {
  const outbox = useOutbox();
  const session = useSession();
  const sheet = computed(() => notebook.value.sheet);

  function entries(parts: Part[], later = 0): Entry[] {
    let clock = Math.max(sheet.value.clock, ...outbox.beyond(notebook.value).map((e) => e.clock));
    const at = new Date(Date.now() + later).toISOString();
    return parts.map((part) => ({
      ...part,
      id: part.id ?? uuid(),
      author: session.id,
      device: device(),
      clock: ++clock,
      at,
    }));
  }

  const ofSample = (trial: string, name: string): Part => ({ kind: 'sample', sample: { trial, name } });
  /** Many entries: what is written in one go is sent in one go, and only so much can be. */
  async function addMany(parts: Part[]) {
    for (let i = 0; i < parts.length; i += atOnce) {
      const why = await outbox.add(notebook.value.id, entries(parts.slice(i, i + atOnce), i / atOnce));
      if (why !== undefined) return why;
    }
    return undefined;
  }
  const add = (...parts: Part[]) => outbox.add(notebook.value.id, entries(parts));
  const read = (trial: string, mark: Mark, text: string, id?: string) =>
    add({ ...(id && { id }), kind: 'reading', reading: { trial, mark, text } });

  return {
    /** Opens a trial with its first reading. */
    open(trial: string, type: TrialType, sample: string, mark: Mark, text: string, id: string) {
      const opening = sheet.value.next.entry?.may?.find((m) => m.type === type);
      return add(
        { id: trial, kind: 'trial', trial: { type } },
        ...(sample && opening?.sample ? [ofSample(trial, sample)] : []),
        { id, kind: 'reading', reading: { trial, mark, text } },
      );
    },
    /** Writes a whole trial down. */
    run(type: TrialType, start: string, end: string) {
      const trial = uuid();
      return add(
        { id: trial, kind: 'trial', trial: { type } },
        { kind: 'reading', reading: { trial, mark: 'start', text: start } },
        { kind: 'reading', reading: { trial, mark: 'end', text: end } },
      );
    },
    /** Says which of several samples a trial is of. */
    belongs: (trial: string, sample: string) => add(ofSample(trial, sample)),
    read,
    correct: (replaces: string, value: string, reason: string) =>
      add({ kind: 'correction', correction: { replaces, value, reason } }),
    withdraw: (replaces: string, reason: string) =>
      add({ kind: 'correction', correction: { replaces, withdraw: true, reason } }),
    /** Withdraws what was written in one go. */
    withdrawAll: (ids: string[], reason: string) =>
      add(...ids.map((replaces): Part => ({ kind: 'correction', correction: { replaces, withdraw: true, reason } }))),
    setAside: (trial: string, reason: string) => add({ kind: 'set-aside', setAside: { trial, reason } }),
    note: (text: string) => add({ kind: 'note', note: { text } }),
    checkAll: (items: string[]) => add(...items.map((item): Part => ({ kind: 'check', check: { item } }))),
    check: (item: string) => add({ kind: 'check', check: { item } }),
    observe: (about: Observed, text: string, trial?: string) =>
      add({ kind: 'observation', observation: { about, text, ...(trial && { trial }) } }),
    /** What a person is asked before these are written; '' for nothing. */
    doubt: (parts: Part[]) => doubtOf(notebook.value, outbox.beyond(notebook.value), entries(parts)),
    write: (parts: Part[]) => add(...parts),
    /** A mass, of the standard or for the sample that was asked for, opening its trial where none was open. */
    weighing(of: string, full: string, emptied: string, asked: Partial<Schemas['Weigh']>): Part[] {
      if (asked.standard) return [{ kind: 'weighing', weighing: { of, full, emptied, standard: true } }];
      const trial = asked.trial ?? (asked.opens && uuid());
      const weighing: Part = { kind: 'weighing', weighing: { of, full, emptied, ...(trial && { trial }) } };
      if (!asked.opens || !trial) return [weighing];
      const sample = sheet.value.next.entry?.sample;
      return [
        { id: trial, kind: 'trial', trial: { type: asked.opens } },
        ...(sample ? [ofSample(trial, sample)] : []),
        weighing,
      ];
    },
    /** What was measured in the place of what the practical gives. */
    measured: ({ what, step }: Schemas['MeasuredValue'], value: string): Part[] => [
      { kind: 'own-value', ownValue: { what, ...(step && { step }), value } },
    ],
    /** A piece of the school's glassware in the place of the practical's. */
    glass: (step: number | undefined, piece: Schemas['Piece']): Part[] => [
      { kind: 'own-glass', ownGlass: { ...(step && { step }), piece } },
    ],
    prepare: (stock: string, taken: string, madeUp: string): Part[] => [
      { kind: 'prepared', prepared: { stock, taken, madeUp } },
    ],
    /** A point of a run: the burette with what the probe shows. */
    point: (trial: string, burette: string, shown: string, more: PointMore, id?: string) =>
      add({ ...(id && { id }), kind: 'point', point: { trial, burette, shown, ...more } }),
    /** Points out of a file, as a run of their own or of the one that is open. */
    points(trial: string, rows: Schemas['ReadPointRow'][]) {
      const run = trial || uuid();
      const start = rows[0]!.burette;
      const opens: Part[] = trial
        ? []
        : [
            { id: run, kind: 'trial', trial: { type: 'accurate' } },
            { kind: 'reading', reading: { trial: run, mark: 'start', text: start } },
          ];
      return addMany([
        ...opens,
        ...rows.map(({ burette, shown, temperature }): Part => ({
          kind: 'point',
          point: { trial: run, burette, shown, source: 'file', ...(temperature && { temperature }) },
        })),
        ...(trial
          ? []
          : [{ kind: 'reading', reading: { trial: run, mark: 'end', text: rows.at(-1)!.burette } } as Part]),
      ]);
    },
    calibrate: (all: Schemas['Calibration'][]) =>
      add(...all.map((calibration): Part => ({ kind: 'calibration', calibration }))),
    answer: (step: string, text: string, unit: string) => add({ kind: 'answer', answer: { step, text, unit } }),
    /** A passage of the report, typed over what stood there. */
    passage: (prompt: string, text: string, over: string[]) =>
      add({ kind: 'passage', passage: { prompt, text, ...(over.length && { over }) } }),
    picture: ({ hash, width, height }: Schemas['NewPicture'], text: string, evidence?: string) =>
      add({ kind: 'picture', picture: { hash, width, height, text, ...(evidence && { evidence }) } }),
    known: (known: Schemas['Known']): Part[] => [{ kind: 'known', known }],
    timed: (what: Timed, seconds: number, trial?: string) =>
      add({ kind: 'timer', timer: { for: what, seconds, ...(trial && { trial }) } }),
  };
}

export type Bench = ReturnType<typeof useBench>;
export type Place = { trial: Trial; mark: Mark; reading: Schemas['Reading'] };

/** Every reading of a trial, in the order it is taken. */
export function readingsOf(trial: Trial): Place[] {
  const all: [Mark, Schemas['Reading'] | undefined][] = [
    ['sample-start', trial.sampleStart],
    ['sample-end', trial.sampleEnd],
    ['reagent-start', trial.reagentStart],
    ['reagent-end', trial.reagentEnd],
    ['start', trial.start],
    ['first-end', trial.firstEnd],
    ...(trial.refills ?? []).flatMap((r): [Mark, Schemas['Reading'] | undefined][] => [
      ['before-refill', r.before],
      ['after-refill', r.after],
    ]),
    ...(trial.provisional ?? []).map((r): [Mark, Schemas['Reading']] => ['provisional', r]),
    ['end', trial.end],
  ];
  return all.flatMap(([mark, reading]) => (reading ? [{ trial, mark, reading }] : []));
}

/** The last reading of a notebook, for "correct last". */
export function lastReading(trials: Trial[]): Place | undefined {
  const trial = trials.filter((t) => !t.withdrawn && readingsOf(t).length).at(-1);
  return trial && readingsOf(trial).at(-1);
}
