// What stands where in a practical, as rows of a name and its text.
import type { Schemas } from '@/api/client';
import type { Key } from '@/words';

export const settingRows = (s: Schemas['Setting']): [Key, string][] => [
  ['bench.burette', s.titrant],
  ['bench.flask', s.analyte],
  ['bench.indicator', s.indicator],
  ['bench.glass', s.glass],
];
