// What a person does at the bench, made into entries. What is right or next is
// the core's business; here readings are only written down.
import { v7 as uuid } from 'uuid';
import { computed, type Ref } from 'vue';
import type { Entry, Notebook, Trial } from '@/api/client';
import { useOutbox } from '@/features/bench/outbox';

const devicePlace = 'exactflask.device';

function device(): string {
  let id = localStorage.getItem(devicePlace);
  if (!id) {
    id = uuid();
    localStorage.setItem(devicePlace, id);
  }
  return id;
}

type Part = Omit<Entry, 'id' | 'device' | 'clock' | 'at'> & { id?: string };

export function useBench(notebook: Ref<Notebook>) {
  const outbox = useOutbox();
  const evaluation = computed(() => notebook.value.sheet.evaluation);

  function entries(parts: Part[]): Entry[] {
    const waiting = outbox.waitingFor(notebook.value.id).map((e) => e.clock);
    let clock = Math.max(evaluation.value.clock, ...waiting);
    return parts.map((part) => ({
      ...part,
      id: part.id ?? uuid(),
      device: device(),
      clock: ++clock,
      at: new Date().toISOString(),
    }));
  }

  const add = (...parts: Part[]) => outbox.add(notebook.value.id, entries(parts));

  return {
    /** Records the reading the bench waits for, opening a trial of this type where none is open. */
    record(text: string, opens: 'rough' | 'accurate') {
      const expect = evaluation.value.next.entry;
      const mark = expect?.mark ?? 'start';
      if (expect?.trial) return add({ kind: 'reading', reading: { trial: expect.trial, mark, text } });
      const trial = uuid();
      return add(
        { id: trial, kind: 'trial', trial: { type: opens } },
        { kind: 'reading', reading: { trial, mark: 'start', text } },
      );
    },
    correct: (replaces: string, value: string, reason: string) =>
      add({ kind: 'correction', correction: { replaces, value, reason } }),
    withdraw: (replaces: string, reason: string) =>
      add({ kind: 'correction', correction: { replaces, withdraw: true, reason } }),
    setAside: (trial: string, reason: string) => add({ kind: 'set-aside', setAside: { trial, reason } }),
    note: (text: string) => add({ kind: 'note', note: { text } }),
  };
}

/** The last reading of a notebook, for "correct last". */
export function lastReading(trials: Trial[]): { trial: Trial; mark: 'start' | 'end' } | undefined {
  const trial = trials.filter((t) => !t.withdrawn && t.start).at(-1);
  return trial && { trial, mark: trial.end ? 'end' : 'start' };
}
