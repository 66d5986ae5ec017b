// A practical that is being written. What is right of it is the core's business;
// here parts of it are exchanged for what was chosen.
import type { Schemas } from '@/api/client';

export type Practical = Schemas['Practical'];
type Solution = Schemas['Solution'];

const newId = () => 'practical-' + Math.random().toString(36).slice(2, 10);

/** A practical to be changed: its kind follows from what is said in it, and is not said beside it. */
export const editable = (p: Practical): Practical => ({ ...p, kind: undefined });

/** A practical of one's own, made of another one. */
export const copyOf = (p: Practical): Practical => ({ ...editable(p), id: newId(), revision: 1 });

/** A practical with some of one of its parts exchanged. */
export function change<K extends 'chemistry' | 'glass' | 'rules' | 'showing'>(
  p: Practical,
  part: K,
  to: Partial<Practical[K]>,
): Practical {
  return { ...p, [part]: { ...p[part], ...to } };
}

const titleOf = (r: { name: string }) => r.name.charAt(0).toUpperCase() + r.name.slice(1);

/**
 * Equation, solutions and indicator of a reaction, set up as the core says. A title that
 * somebody wrote stays; one that a reaction gave goes with it.
 */
export function withReaction(
  p: Practical,
  r: Schemas['Reaction'],
  fresh: Practical,
  all: { name: string }[] = [],
): Practical {
  const given = !p.title || p.title === fresh.title || all.some((other) => titleOf(other) === p.title);
  const { route, glass, rules, showing } = fresh;
  return {
    ...p,
    title: given ? titleOf(r) : p.title,
    kind: undefined,
    asked: undefined,
    chemistry: {
      equation: r.equation,
      titrant: r.titrant,
      analyte: r.analyte,
      indicator: r.indicators[0] ?? p.chemistry.indicator,
    },
    route,
    glass: { ...glass, burette: p.glass.burette },
    rules: { ...rules, readings: p.rules.readings },
    showing: { ...showing, ...p.showing },
  };
}

/** Whether a solution is made and nothing titrated: there is neither a reaction nor a sample. */
export const alone = (p: Practical) =>
  p.route.length === 0 && !p.chemistry.equation && (p.chemistry.titrant.made ?? []).length > 0;

/** With nothing titrated: the solution in the burette is made, and that is all. */
export function withSolutionAlone(p: Practical): Practical {
  const { name, formula, made, own, purity, puritySpread } = p.chemistry.titrant;
  return {
    ...p,
    kind: undefined,
    asked: undefined,
    samples: undefined,
    probe: undefined,
    marking: undefined,
    route: [],
    chemistry: {
      equation: '',
      indicator: '',
      analyte: { name: '', formula: '' },
      titrant: {
        ...{ name, formula, own, purity, puritySpread },
        made: made ?? [
          { kind: 'weigh', mass: '1.000' },
          { kind: 'make-up', volume: '250.0' },
        ],
      },
    },
  };
}

/** With the class of burette and pipette: of what a volume goes into the flask with, where one is measured. */
export function withClass(p: Practical, c: 'A' | 'B'): Practical {
  const last = p.route.findLastIndex((s) => s.kind === 'aliquot' || s.kind === 'pipette');
  // A tolerance belongs to the piece that was chosen with it.
  const route = p.route.map((s, i) => (i === last ? { ...s, tolerance: undefined, class: c } : s));
  return { ...change(p, 'glass', { burette: { ...p.glass.burette, class: c } }), route };
}

/**
 * Which of the two solutions is the unknown: its strength is approximate. The known one
 * stays the known one while its field is empty.
 */
export const unknownOf = (p: Practical): 'titrant' | 'analyte' =>
  p.chemistry.titrant.concentration !== undefined ? 'analyte' : 'titrant';

export function withStrength(p: Practical, which: 'titrant' | 'analyte', text: string): Practical {
  const field = which === unknownOf(p) ? 'approximate' : 'concentration';
  const typed = text.replace(',', '.').trim();
  // A known titrant stays the known one; what is weighed and known has no concentration.
  const value = typed || (field === 'concentration' && which === 'titrant' ? '' : undefined);
  return change(p, 'chemistry', { [which]: { ...p.chemistry[which], [field]: value } });
}

/** What a school says itself of one of the two substances; nothing at all where all of it is empty. */
export function withOwn(p: Practical, which: 'titrant' | 'analyte', to: Partial<Schemas['Own']>): Practical {
  const own = { ...p.chemistry[which].own, ...to };
  const said = own.pKa?.length || own.molarMass || own.potential || own.electrons;
  return change(p, 'chemistry', { [which]: { ...p.chemistry[which], own: said ? own : undefined } });
}

/** The samples that are compared, a line each; the first is the control. */
export function withSamples(p: Practical, lines: string): Practical {
  const names = lines
    .split('\n')
    .map((name) => name.trim())
    .filter(Boolean);
  return { ...p, samples: names.length ? names.map((name, i) => ({ name, control: i === 0 })) : undefined };
}

/** The other of the two solutions is the unknown. */
export function withUnknownSwapped(p: Practical): Practical {
  const flip = (s: Solution): Solution => ({ ...s, concentration: s.approximate, approximate: s.concentration });
  return change(p, 'chemistry', { titrant: flip(p.chemistry.titrant), analyte: flip(p.chemistry.analyte) });
}

export function exchanged(p: Practical): Practical {
  return change(p, 'chemistry', { titrant: p.chemistry.analyte, analyte: p.chemistry.titrant });
}
