import { describe, expect, it } from 'vitest';
import type { Schemas } from '@/api/client';
import {
  aliquotOf,
  change,
  exchanged,
  unknownOf,
  withAliquot,
  withOwn,
  withReaction,
  withSamples,
  withStrength,
  withUnknownSwapped,
} from './draft';
import { fresh } from './fresh.test-help';

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
    expect(withAliquot(p, { volume: '10.00' }).route).toEqual([{ kind: 'pipette', volume: '10.00', class: 'B' }]);
    expect(p).toEqual({ ...fresh(), id: p.id });
  });

  it('finds the aliquot that is titrated at the end of a longer route', () => {
    const p = { ...fresh(), route: [{ kind: 'weigh' }, { kind: 'make-up' }, { kind: 'aliquot', volume: '25.00' }] };
    expect(aliquotOf(p as ReturnType<typeof fresh>)?.volume).toBe('25.00');
    expect(aliquotOf({ ...fresh(), route: [{ kind: 'weigh' }] })).toBeUndefined();
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
    expect(aliquotOf(p)?.kind).toBe('pipette');
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
