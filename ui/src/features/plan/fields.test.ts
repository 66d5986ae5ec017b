import { describe, expect, it } from 'vitest';
import scheme from '../marking/SchemeEditor.vue?raw';
import lists from './EditLists.vue?raw';
import questions from './EditQuestions.vue?raw';
import via from './EditVia.vue?raw';
import glass from './PlanGlass.vue?raw';
import own from './PlanOwn.vue?raw';
import rules from './PlanRules.vue?raw';
import solutions from './PlanSolutions.vue?raw';
import vessels from './vessels.ts?raw';
import page from './Plan.vue?raw';
import more from './PlanMore.vue?raw';
import draft from './draft.ts?raw';
import { fresh } from './fresh.test-help';
import { leaves } from './leaves.test-help';
import { at, groups, withAt, written, type Field } from './fields';

describe('the fields of a practical', () => {
  it('can all be reached', () => {
    const listed = new Set((Object.values(groups) as Field[][]).flat().map((f) => f.path));
    const elsewhere =
      scheme + lists + vessels + via + questions + page + solutions + glass + rules + more + own + draft;
    // The identity of a practical is made for it; its kind follows from what is said, and the server says what was dealt.
    const made = ['id', 'revision', 'kind', 'asked.dealt'];
    const missing = leaves('Practical').filter((path) => {
      if (listed.has(path) || made.includes(path)) return false;
      const name = path.split('.').at(-1)!;
      return !new RegExp(`\\b${name}\\b`).test(elsewhere);
    });
    expect(missing).toEqual([]);
  });

  it('are read and written by their path, and what is empty goes', () => {
    const p = fresh();
    expect(at(p, 'route[0].volume')).toBe('25.00');
    expect(at(p, 'asked.label.value')).toBeUndefined();
    const labelled = withAt(p, 'asked.label.value', '5.0');
    expect(labelled.asked).toEqual({ label: { value: '5.0' } });
    expect(withAt(labelled, 'asked.label.value', '')).toEqual(p);
    expect(withAt(p, 'route[0].class', '').route[0]).toEqual({ kind: 'pipette', volume: '25.00' });
    expect(p).toEqual({ ...fresh(), id: p.id }); // not changed itself
  });

  it('take a tolerance with the piece that it belongs to', () => {
    const p = withAt(fresh(), 'route[0].tolerance', '0.06');
    expect(written(p, 'route[0].volume', '20.00').route[0]!.tolerance).toBeUndefined();
    expect(written(p, 'route[0].what', 'sea water').route[0]!.tolerance).toBe('0.06');
  });

  it('compare results where a burette measures into the flask', () => {
    const two = withAt(fresh(), 'route', [
      { kind: 'pipette', volume: '25.00' },
      { kind: 'make-up', volume: '250.0' },
    ]);
    expect(written(fresh(), 'route[0].by', 'burette').rules.agreement.kind).toBe('relative');
    expect(written(fresh(), 'route[0].by', 'cylinder').rules.agreement.kind).toBeUndefined();
    expect(written(two, 'route[0].by', 'burette').rules.agreement.kind).toBeUndefined(); // it is made up afterwards
  });

  it('say words and units together', () => {
    const p = written(fresh(), 'showing.style.units', 'cm3');
    expect(p.showing.style).toEqual({ words: 'titre', units: 'cm3' });
    expect(written(p, 'showing.style.words', '').showing.style).toBeUndefined();
  });
});
