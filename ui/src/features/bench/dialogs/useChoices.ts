// What the bench offers, as lists to choose from by digit.
import { computed, type Ref } from 'vue';
import type { Notebook, Trial } from '@/api/client';
import type { Asking } from '@/notebook/asking';
import { lastReading, type TrialType } from '@/notebook/useBench';
import { say } from '@/words';

export type Choice = { text: string; act?: () => unknown; more?: Choice[]; now?: boolean; stays?: boolean };

type Desk = {
  ended: Ref<Trial | undefined>;
  type: Ref<TrialType>;
  types: Ref<TrialType[]>;
  colour: (value: string) => unknown;
  take: (text: string) => unknown;
  tick: (item: string) => unknown;
  untick: (entry: string) => unknown;
  ask: (what: Asking) => void;
};

export const colours = ['pale', 'deep', 'fading'] as const;

/** The readings of which one is the end of a trial. */
export function endsOf(trial: Trial): string[] {
  const noted = (trial.provisional ?? []).map((r) => r.text);
  return [...new Set([...noted, ...(trial.struck.end ?? []).map((s) => s.text), trial.end!.text])];
}

export function useChoices(notebook: Ref<Notebook>, desk: Desk) {
  const items = (list: 'setup' | 'cleanup'): Choice => ({
    text: say(`bench.${list}`),
    more: notebook.value.sheet[list].map((i) => ({
      text: i.text,
      now: i.done,
      stays: true,
      act: () => (i.done ? desk.untick(i.entry!) : desk.tick(i.code)),
    })),
  });
  const ask = (text: string, what: Asking): Choice => ({ text, act: () => desk.ask(what) });

  return computed<Choice[]>(() => {
    const { sheet } = notebook.value;
    const out: Choice[] = [];
    const place = lastReading(sheet.trials);
    if (place) out.push(ask(say('bench.correctLast'), { what: 'correct', place }));
    const ended = desk.ended.value;
    if (ended && sheet.setting.seen)
      out.push({
        text: say('bench.colourOf', { trial: ended.name }),
        more: colours.map((c) => ({
          text: say(`bench.colours.${c}`),
          now: ended.endColour === c,
          act: () => desk.colour(c),
        })),
      });
    if (ended?.provisional?.length)
      out.push({
        text: say('choose.whichEnd', { trial: ended.name }),
        more: endsOf(ended).map((text) => ({
          text,
          now: text === ended.end!.text,
          act: () => desk.take(text),
        })),
      });
    if (sheet.next.entry?.opens)
      out.push({
        text: say('bench.type'),
        more: desk.types.value.map((t) => ({
          text: say(`bench.types.${t}`),
          now: desk.type.value === t,
          act: () => (desk.type.value = t),
        })),
      });
    if (place)
      out.push(
        place.trial.setAside
          ? ask(say('choose.restore', { trial: place.trial.name }), { what: 'restore', trial: place.trial })
          : place.trial.titre
            ? ask(say('choose.aside', { trial: place.trial.name }), { what: 'aside', trial: place.trial })
            : ask(say('choose.withdraw', { trial: place.trial.name }), { what: 'withdraw', trial: place.trial }),
      );
    out.push(items('setup'), items('cleanup'));
    out.push(ask(say('bench.note'), { what: 'note' }), {
      text: say('choose.records'),
      more: [
        ask(say('bench.weigh'), { what: 'weigh' }),
        ask(say('bench.prepare'), { what: 'prepare' }),
        ...(['glass', 'solution-made', 'aliquot', 'batch'] as const).map((what) =>
          ask(say(`bench.words.${what}`), { what }),
        ),
      ],
    });
    if (sheet.probe)
      out.push(ask(say('calibrate.title'), { what: 'calibrate' }), ask(say('points.title'), { what: 'points' }));
    if (sheet.next.entry?.opens) out.push(ask(say('readings.title'), { what: 'readings' }));
    out.push(ask(say('bench.cautions'), { what: 'cautions' }));
    return out;
  });
}
