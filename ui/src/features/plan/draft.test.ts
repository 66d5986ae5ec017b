import { describe, expect, it } from 'vitest';
import type { Schemas } from '@/api/client';
import {
  change,
  exchanged,
  unknownOf,
  withClass,
  withOwn,
  withReaction,
  withSamples,
  withStrength,
  withUnknownSwapped,
} from './draft';
import { fresh } from './fresh.test-help';
import { become, moved, without, withVessel, type Step } from './vessels';

describe('a practical that is being written', () => {
  it('has one unknown, whose strength is approximate', () => {
    const p = fresh();
    expect(unknownOf(p)).toBe('analyte');
    expect(withStrength(p, 'analyte', '0,12 ').chemistry.analyte.approximate).toBe('0.12');
    expect(withStrength(p, 'titrant', '0.2').chemistry.titrant.concentration).toBe('0.2');
    expect(unknownOf(withStrength(p, 'titrant', ' ')), 'the known one stays the known one').toBe('analyte');
    expect(withStrength(p, 'titrant', ' ').chemistry.titrant.concentration).toBe('');
    const swapped = withUnknownSwapped(p);
    expect(unknownOf(swapped)).toBe('titrant');
    expect(swapped.chemistry.analyte.concentration).toBe('0.100');
    expect(withUnknownSwapped(swapped)).toEqual(p);
  });

  it('exchanges burette and flask, and back again', () => {
    const p = fresh();
    expect(exchanged(p).chemistry.titrant).toEqual(p.chemistry.analyte);
    expect(exchanged(exchanged(p))).toEqual(p);
  });

  it('changes one part and leaves the rest, and the original, alone', () => {
    const p = fresh();
    expect(change(p, 'showing', { hideExpected: true })).toEqual({
      ...p,
      showing: { results: 'always', hideExpected: true },
    });
    expect(p).toEqual({ ...fresh(), id: p.id });
  });

  it('has burette and pipette of one class: the last that measures into the flask', () => {
    const p = { ...fresh(), route: [{ kind: 'pipette' }, { kind: 'make-up' }, { kind: 'aliquot', tolerance: '0.06' }] };
    const now = withClass(p as ReturnType<typeof fresh>, 'A');
    expect(now.glass.burette.class).toBe('A');
    expect(now.route).toEqual([{ kind: 'pipette' }, { kind: 'make-up' }, { kind: 'aliquot', class: 'A' }]);
  });

  it('takes a reaction with nothing left over from another', () => {
    const before = { ...fresh(), asked: { what: 'purity' as const }, route: [{ kind: 'weigh' as const }] };
    const reaction = {
      name: 'ammonia with hydrochloric acid',
      equation: 'NH3 + HCl -> NH4Cl',
      titrant: { name: 'hydrochloric acid', formula: 'HCl' },
      analyte: { name: 'ammonia', formula: 'NH3' },
      indicators: ['methyl-red'],
    } as Schemas['Reaction'];
    const p = withReaction(before, reaction, fresh());
    expect(p.title).toBe('Ammonia with hydrochloric acid');
    expect(p.asked).toBeUndefined();
    expect(p.chemistry.indicator).toBe('methyl-red');
    expect(p.route).toEqual(fresh().route);
    // What somebody wrote stays; what an earlier choice gave goes with it.
    const other = { ...reaction, name: 'TRIS with hydrochloric acid' };
    const all = [reaction, other];
    expect(withReaction(p, other, fresh(), all).title).toBe('TRIS with hydrochloric acid');
    expect(withReaction({ ...p, title: 'Window cleaner' }, other, fresh(), all).title).toBe('Window cleaner');
    expect(withReaction({ ...p, title: '' }, other, fresh(), all).title).toBe('TRIS with hydrochloric acid');
  });

  it('keeps what a school says of a substance, and nothing where all is empty', () => {
    const own = withOwn(fresh(), 'analyte', { pKa: ['2.98', '4.34'] });
    expect(own.chemistry.analyte.own).toEqual({ pKa: ['2.98', '4.34'] });
    expect(withOwn(own, 'analyte', { kind: 'base' }).chemistry.analyte.own?.kind).toBe('base');
    expect(withOwn(own, 'analyte', { pKa: [] }).chemistry.analyte.own).toBeUndefined();
    expect(own.chemistry.titrant.own).toBeUndefined();
  });

  it('takes samples a line each, the first of them the control', () => {
    const p = withSamples(fresh(), ' cold \n\nwarm\n');
    expect(p.samples).toEqual([
      { name: 'cold', control: true },
      { name: 'warm', control: false },
    ]);
    expect(withSamples(p, ' \n').samples).toBeUndefined();
  });
});

describe('the row of vessels', () => {
  const row: Step[] = [
    { kind: 'weigh', mass: '1.25', formula: 'CaCO3' },
    { kind: 'excess', volume: '50.00', concentration: '0.9870', formula: 'HCl', equation: 'a' },
    { kind: 'make-up', volume: '250.0' },
  ];
  const kinds = (steps: Step[]) => steps.map((s) => s.kind).join(' ');

  it('takes one between two, and lets it go again', () => {
    const more = withVessel(row, 2, 'aliquot');
    expect(kinds(more)).toBe('weigh excess aliquot make-up');
    expect(without(more, 2)).toEqual(row);
    expect(kinds(withVessel(row, 3, 'aliquot'))).toBe('weigh excess make-up aliquot');
  });
  it.each([
    [0, 1, 'excess weigh make-up'],
    [2, 0, 'make-up weigh excess'],
    [2, 3, 'weigh excess make-up'],
    [0, -1, 'weigh excess make-up'],
  ])('moves %i to %i', (from, to, want) => expect(kinds(moved(row, from, to))).toBe(want));
  it('keeps in another vessel what both have', () => {
    expect(become(row, 1, 'weigh', false)[1]).toEqual({ kind: 'weigh', mass: '1.000', formula: 'HCl' });
    expect(become(row, 1, 'pipette', true)[1]).toEqual({ kind: 'pipette', volume: '50.00', concentration: '0.9870' });
    expect(become(row, 1, 'pipette', false)[1]).toEqual({ kind: 'pipette', volume: '50.00' });
  });
});
