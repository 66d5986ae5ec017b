// What is typed and recorded, one after the other: what is pressed while the last is
// being sent waits its turn, and nothing typed is ever lost.
import { v7 as uuid } from 'uuid';
import { computed, ref, watch, type Ref } from 'vue';
import type { Notebook } from '@/api/client';
import { useDraft } from '@/device/drafts';
import { placeOf, shownOf, targetOf, type Shown, type Target } from '@/features/bench/pad/target';
import { useOutbox } from '@/notebook/outbox';
import type { Bench, Part, PointMore, TrialType } from '@/notebook/useBench';
import { say } from '@/words';

export type { PointMore };
export type PadAction = 'record' | 'note' | 'refill' | 'again' | 'point' | 'end';
/**
 * One stroke of Record: the id that its reading will have, so that it is never written twice.
 * Kind and sample only where they were chosen by hand: else the ones that are proposed then.
 */
export type Ahead = {
  id: string;
  action: PadAction;
  text: string; // of the burette
  shown?: string; // of a point: what the probe shows
  opens?: TrialType;
  sample?: string;
  more?: PointMore;
  target?: Target; // none where an older page kept it
};

/** How long a field stands before what is proposed in it can be accepted, ms: a bounce is no reading. */
const bounce = 400;

const marks = { note: 'provisional', refill: 'before-refill', again: 'start', end: 'end' } as const;

export function useRecording(notebook: Ref<Notebook>, bench: Bench, whole: Ref<boolean>, focus: () => void) {
  const text = useDraft('reading.' + notebook.value.id, '');
  const ahead = useDraft<Ahead[]>('ahead.' + notebook.value.id, []);
  // Kept by a page that wrote both readings of a point as one text.
  for (const a of ahead.value)
    if (a.action === 'point' && a.shown === undefined)
      [a.text, a.shown] = [a.text.split(' ')[0]!, a.text.split(' ')[1]];
  // What was not taken and waits for the field: something else is being typed there.
  const returned = useDraft<Ahead | null>('returned.' + notebook.value.id, null);
  // Of a point what the probe shows, and what is said beside it.
  const shown = useDraft('shown.' + notebook.value.id, '');
  const colour = useDraft('colour.' + notebook.value.id, '');
  const temperature = useDraft('temperature.' + notebook.value.id, '');
  const outbox = useOutbox();
  const problem = ref('');
  const busy = ref(false);
  const back = ref(returned.value !== null); // what was refused is in the field again, or waits for it
  /** Whether what is shown is what was recorded last: nothing is on its way. */
  const settled = computed(() => !busy.value && whole.value && ahead.value.length === 0);
  let why = ''; // the last one was not taken
  let asked = ''; // about this reading, a moment ago
  let before = ''; // the trial that the last reading was of
  // What is proposed in the field that is shown can be accepted once it has stood a while.
  const accepts = ref(true);
  let standing: ReturnType<typeof setTimeout> | undefined;
  watch(
    () => JSON.stringify([notebook.value.sheet.next.entry, settled.value]),
    () => {
      accepts.value = false;
      clearTimeout(standing);
      standing = setTimeout(() => (accepts.value = true), bounce);
    },
    { flush: 'post' },
  );

  function act(action: PadAction, typed: string, opens: TrialType, sample: string, shown: Shown, wasSettled: boolean) {
    focus();
    if (!typed && settled.value && !accepts.value) return;
    // What is proposed can be accepted only while it is shown, and shown for what was
    // recorded last: a second stroke by accident is no reading.
    const proposal = action === 'record' && settled.value;
    const reading = typed || (proposal ? (shownOf(notebook.value.sheet.next, shown.trial ?? '')?.proposal ?? '') : '');
    if (!reading) {
      problem.value = say(proposal ? 'bench.nothingTyped' : 'bench.notYet');
      return;
    }
    const item = { id: uuid(), action, text: reading, target: targetOf(shown, wasSettled, uuid) };
    put(item, opens, sample);
    text.value = '';
  }

  /** A point, or what else is done while a run is followed. */
  function actPoint(
    action: PadAction,
    burette: string,
    value: string,
    more: PointMore,
    of: Shown,
    wasSettled: boolean,
  ) {
    focus();
    const last = notebook.value.sheet.points?.filter((p) => p.trial === of.trial).at(-1);
    const fresh = settled.value;
    const read =
      burette ||
      (action === 'point' && fresh ? (shownOf(notebook.value.sheet.next, of.trial ?? '')?.proposal ?? '') : '') ||
      (action !== 'point' && fresh ? (last?.burette ?? '') : '');
    if (!read || (action === 'point' && !value)) {
      problem.value = say(fresh || read ? 'points.both' : 'bench.notYet');
      return;
    }
    put({
      id: uuid(),
      action,
      text: read,
      target: targetOf(of, wasSettled, uuid),
      ...(action === 'point' && { shown: value, more }),
    });
    text.value = '';
    if (action === 'point') {
      shown.value = '';
      colour.value = '';
    }
  }

  function put(item: Ahead, opens?: TrialType, sample?: string) {
    const { opens: usual, sample: next = '' } = notebook.value.sheet.next.entry ?? {};
    if (usual && opens && opens !== usual) item.opens = opens;
    if (sample !== undefined && sample !== next) item.sample = sample;
    if (returned.value) {
      ahead.value = [...ahead.value, item]; // its turn comes after the one that came back
      return;
    }
    // What was refused and is mended goes before what was typed behind it.
    ahead.value = back.value ? [item, ...ahead.value] : [...ahead.value, item];
    back.value = false;
    problem.value = '';
    void goOn();
  }

  /** What was not taken stands in the field again, as soon as nothing else does. */
  function takeBack() {
    const item = returned.value;
    if (!item || text.value || shown.value) return;
    returned.value = null;
    problem.value = why;
    text.value = item.text;
    if (item.action === 'point') {
      shown.value = item.shown ?? '';
      colour.value = item.more?.colour ?? '';
    }
    focus();
  }

  /** Whether it is written already: the page went away between that and taking it out here. */
  const written = (id: string) =>
    outbox.all.some((w) => w.entry.id === id) ||
    outbox.beyond(notebook.value).some((e) => e.id === id) ||
    notebook.value.entries?.some((e) => e.id === id);

  /** Writes it where it belongs; or why it was not taken. */
  async function write(first: Ahead): Promise<string | undefined> {
    const { next } = notebook.value.sheet;
    const place = placeOf(first.target ?? { behind: true }, next, before, first.opens, uuid);
    if (!place) return say(next.entry?.trial || next.others ? 'bench.meanwhile' : 'bench.noTrialOpen');
    if (place.opens && first.action !== 'record') return say('bench.noTrialOpen');
    if (first.action === 'point') {
      before = place.trial;
      return await bench.point(place.trial, first.text, first.shown ?? '', first.more ?? {}, first.id);
    }
    const mark = first.action === 'record' ? place.mark : marks[first.action as keyof typeof marks];
    // What the core doubts is asked once: given again as it stands, it is taken.
    if (asked !== first.text) {
      const reading: Part = { kind: 'reading', reading: { trial: place.trial, mark, text: first.text } };
      const opening: Part[] = place.opens ? [{ id: place.trial, kind: 'trial', trial: { type: place.opens } }] : [];
      const doubt = await bench.doubt([...opening, reading]);
      asked = doubt ? first.text : '';
      if (doubt) return `${doubt} ${say('bench.doubtAgain')}`;
    }
    asked = '';
    before = place.trial;
    if (place.opens) {
      const sample = first.sample ?? next.entry?.sample ?? '';
      return await bench.open(place.trial, place.opens, sample, place.mark, first.text, first.id);
    }
    return await bench.read(place.trial, mark, first.text, first.id);
  }

  async function goOn() {
    while (ahead.value[0] && written(ahead.value[0].id)) ahead.value = ahead.value.slice(1);
    const first = ahead.value[0];
    if (busy.value || !first || !whole.value) return;
    busy.value = true;
    problem.value = '';
    back.value = false;
    const refused = await write(first);
    busy.value = false;
    ahead.value = ahead.value.filter((a) => a.id !== first.id);
    if (refused === undefined) return void goOn();
    // Not taken: back into the field. What is being typed there is left as it is until it is done.
    why = refused;
    problem.value = text.value || shown.value ? say('bench.comesBack', { text: first.text, why }) : why;
    back.value = true;
    returned.value = first;
    takeBack();
  }

  watch(whole, (now) => now && !back.value && void goOn(), { immediate: true });
  // After the pad has been empty: what stood there before has its first key no more (useFirstKey).
  watch([text, shown], takeBack, { flush: 'post' });
  takeBack();
  return { text, shown, colour, temperature, ahead, problem, busy, settled, accepts, act, actPoint };
}
