// What a vessel of each kind asks for, and what a new one begins with. What is right of it is the core's business.
import type { Schemas } from '@/api/client';
import type { Control } from '@/features/plan/fields';

export type Step = Schemas['RouteStep'];
export type Kind = Step['kind'];
export type Asked = { field: keyof Step; control: Control };

const glass: Asked = { field: 'class', control: ['', 'A', 'B'] };
const by: Asked = { field: 'by', control: ['', 'pipette', 'cylinder', 'burette'] };
const what: Asked = { field: 'what', control: 'text' };
const formula: Asked = { field: 'formula', control: 'text' };
const mass: Asked = { field: 'mass', control: 'decimal' };
const volume: Asked = { field: 'volume', control: 'decimal' };
const strength: Asked = { field: 'concentration', control: 'decimal' };
const eachTrial: Asked = { field: 'eachTrial', control: 'check' };

/** In the row itself, and what else there is of it. */
type Asks = { first: Asked[]; more: Asked[] };
const asks: Record<Kind, Asks> = {
  weigh: { first: [mass], more: [what, formula, eachTrial] },
  tablets: { first: [{ field: 'count', control: 'whole' }], more: [what, mass, eachTrial] },
  pipette: { first: [volume], more: [what, glass, by] },
  'make-up': { first: [volume], more: [glass, { field: 'by', control: ['', 'flask', 'cylinder'] }] },
  aliquot: { first: [volume], more: [glass, by] },
  excess: {
    first: [volume, strength],
    more: [what, formula, glass, by, { field: 'equation', control: 'text' }, { field: 'byBlank', control: 'check' }],
  },
};
// A stock is measured, and its strength said.
const stock: Asks = {
  first: [volume, strength],
  more: [what, glass, { field: 'by', control: ['', 'pipette', 'cylinder'] }],
};

/** What a vessel asks for; what is made is weighed once. */
export function asked(kind: Kind, made: boolean): Asks {
  if (!made) return asks[kind];
  if (kind === 'pipette') return stock;
  return { ...asks[kind], more: asks[kind].more.filter((a) => a !== eachTrial) };
}

export const kindsOf = (made: boolean) =>
  (made ? ['weigh', 'pipette', 'make-up', 'aliquot'] : Object.keys(asks)) as Kind[];

const fresh: Record<Kind, Step> = {
  weigh: { kind: 'weigh', mass: '1.000' },
  tablets: { kind: 'tablets', count: 1 },
  pipette: { kind: 'pipette', volume: '25.00' },
  'make-up': { kind: 'make-up', volume: '250.0' },
  aliquot: { kind: 'aliquot', volume: '25.00' },
  excess: { kind: 'excess', volume: '50.00', concentration: '0.100' },
};

export const withVessel = (steps: Step[], at: number, kind: Kind) => steps.toSpliced(at, 0, { ...fresh[kind] });
export const without = (steps: Step[], at: number) => steps.toSpliced(at, 1);

/** With a vessel at another place. */
export function moved(steps: Step[], from: number, to: number): Step[] {
  const [vessel] = steps.slice(from, from + 1);
  if (!vessel || to < 0 || to >= steps.length) return steps;
  return steps.toSpliced(from, 1).toSpliced(to, 0, vessel);
}

/** Another vessel in the same place keeps what both have. */
export function become(steps: Step[], at: number, kind: Kind, made: boolean): Step[] {
  const now = steps[at]!;
  const { first, more } = asked(kind, made);
  const kept = Object.fromEntries(
    [...first, ...more].map(({ field }) => [field, now[field]]).filter(([, v]) => v !== undefined),
  );
  return steps.with(at, { ...fresh[kind], ...kept, kind } as Step);
}
