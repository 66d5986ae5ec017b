// The stations of a notebook, from before the laboratory to the marks. One that is not open yet leads
// nowhere; the journal is reached from anywhere.
import type { StationAt } from '@/shared/StationLine.vue';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

export type Stands = {
  id: string;
  class?: string; // none in a copy that an older page kept
  practical: string;
  bench?: string; // what the core says of it
  work?: string;
  result?: string;
  handedIn?: string;
  due?: string;
  marked?: boolean;
};

export function notebookStations(n: Stands): StationAt[] {
  const to = (name: string) => ({ name, params: { id: n.id } });
  const report = n.handedIn
    ? say('shelf.handedIn', { at: whenIs(n.handedIn) })
    : n.due && say('shelf.due', { at: whenIs(n.due) });
  return [
    {
      key: 'before',
      name: say('app.before'),
      to: n.class ? { name: 'plan', params: { classId: n.class, practical: n.practical } } : undefined,
    },
    { key: 'bench', name: say('app.bench'), text: n.bench, to: to('bench') },
    { key: 'work', name: say('app.work'), text: n.work, to: to('work') },
    { key: 'result', name: say('app.result'), text: n.result, to: to('result') },
    { key: 'report', name: say('app.report'), text: report || undefined, to: to('report') },
    {
      key: 'marks',
      name: say('app.marks'),
      text: n.marked ? say('app.marksThere') : undefined,
      to: n.marked ? to('marks') : undefined,
    },
  ];
}
