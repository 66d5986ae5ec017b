// What stands in a practical, as rows of a name and its text.
import type { Schemas } from '@/api/client';
import type { Key } from '@/words';

export function settingRows(s: Schemas['Setting']): [Key, string][] {
  if (s.madeOnly)
    return [
      ['bench.solution', s.titrant],
      ['bench.glass', s.glass],
    ];
  return [
    ['bench.burette', s.titrant],
    ['bench.flask', s.analyte],
    ['bench.indicator', s.indicator],
    ['bench.glass', s.glass],
  ];
}
