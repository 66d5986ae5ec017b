// Asks the core, which runs beside the page.
import type { Entry, Notebook, Schemas } from '@/api/client';

export type Judgement = { sheet?: Schemas['Sheet']; fault?: string; at: number };

let worker: Worker | undefined;
let count = 0;
const asked = new Map<number, (answer: Judgement | undefined) => void>();

/** Loads the core, so that it is there when the network is not. */
export function prepare() {
  if (worker) return;
  worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<{ id: number; answer?: string }>) => {
    asked.get(data.id)?.(data.answer === undefined ? undefined : (JSON.parse(data.answer) as Judgement));
    asked.delete(data.id);
  };
  worker.onerror = () => {
    worker = undefined; // tried again at the next question
    asked.forEach((done) => done(undefined));
    asked.clear();
  };
}

/** What follows from a notebook with these entries added; undefined when the core could not be loaded. */
export function judge(notebook: Notebook, added: Entry[]): Promise<Judgement | undefined> {
  prepare();
  const { sheet, practical, entries = [] } = notebook;
  const request = JSON.stringify({
    practical,
    entries,
    added,
    style: sheet.style,
    withheld: sheet.withheld ?? false,
    judged: sheet.judged ?? false,
  });
  return new Promise((done) => {
    asked.set(++count, done);
    worker!.postMessage({ id: count, request });
  });
}
