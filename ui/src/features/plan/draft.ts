// A practical that is being written.
import type { Schemas } from '@/api/client';

export type Practical = Schemas['Practical'];

/** What a new practical begins with. */
export const blank = (): Practical => ({
  id: 'practical-' + Math.random().toString(36).slice(2, 10),
  revision: 1,
  title: '',
  method: 'direct',
  equation: 'HCl + NaOH -> NaCl + H2O',
  titrant: { name: 'sodium hydroxide', formula: 'NaOH', concentration: '0.100' },
  analyte: { name: 'hydrochloric acid', formula: 'HCl', approximate: '0.100' },
  aliquot: { volume: '25.00', class: 'B' },
  burette: { capacity: '50.00', division: '0.1', class: 'B' },
  indicator: 'phenolphthalein',
  readings: { resolution: 'half' },
  agreement: { tolerance: '0.10', need: 2 },
  result: { show: 'always' },
  style: { words: 'titre', units: 'mL' },
});

/** Equation, solutions and indicator of a reaction, set up as the core says. */
export const fromReaction = (r: Schemas['Reaction']): Partial<Practical> => ({
  equation: r.equation,
  titrant: { ...r.titrant, concentration: '0.100' },
  analyte: { ...r.analyte, approximate: '0.100' },
  ...(r.indicators[0] && { indicator: r.indicators[0] }),
  title: r.name.charAt(0).toUpperCase() + r.name.slice(1),
  route: undefined,
});
