import { beforeAll, describe, expect, it } from 'vitest';
import { fresh } from '@/features/plan/fresh.test-help';
import { withAt } from '@/features/plan/fields';
import { leaves } from '@/features/plan/leaves.test-help';
import { textsOfViews } from '@/words';
import { differences, nameOf } from './differences';

const units = { volume: 'mL', concentration: 'mol/L' };

describe('two revisions of a practical', () => {
  beforeAll(textsOfViews);
  const before = { ...fresh(), id: 'p', purpose: 'old purpose' };

  it('differ nowhere but in what was changed; the revision itself is no difference', () => {
    expect(differences(before, { ...before, revision: 7 }, units)).toEqual([]);
    const after = withAt(withAt(before, 'purpose', 'new purpose'), 'route[0].volume', '20.00');
    expect(differences(before, after, units)).toEqual([
      { path: 'route[0].volume', name: 'Volume / mL (1)', before: '25.00', after: '20.00' },
      { path: 'purpose', name: 'Purpose', before: 'old purpose', after: 'new purpose' },
    ]);
  });

  it('show what was taken out and what came in', () => {
    const after = withAt(withAt(before, 'purpose', undefined), 'rules.readings.hold', 40);
    expect(differences(before, after, units).map((d) => [d.path, d.before, d.after])).toEqual([
      ['purpose', 'old purpose', ''],
      ['rules.readings.hold', '', '40'],
    ]);
  });

  it('has a name for every field of a practical, in the reader’s units', () => {
    const unnamed = leaves('Practical').filter((path) => nameOf(path, units) === path);
    expect(unnamed).toEqual([]);
    expect(nameOf('samples[1].name', units)).toBe('Sample (2)');
  });
});
