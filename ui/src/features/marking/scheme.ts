// How parts of a marking scheme are typed.
import type { Criterion } from '@/api/marking';

type Band = NonNullable<Criterion['bands']>[number];

/** Bands as they are typed: 0.20 = 3, 0.40 = 2. */
export const textOfBands = (bands: Band[]) => bands.map((b) => `${b.within} = ${b.marks}`).join(', ');

/** Parts are set apart by a semicolon, or a comma and a blank. What stands there is kept as it is; whether it is right the core says. */
export const bandsOf = (text: string): Band[] =>
  text
    .split(/;|,\s+/)
    .filter((part) => part.trim())
    .map((part) => {
      const [within = '', marks = ''] = part.split('=').map((s) => s.trim().replace(',', '.'));
      return { within: within || '0', marks: marks || '0' };
    });

/** A name that no criterion has. */
export function freshId(criteria: Criterion[]): string {
  for (let n = criteria.length + 1; ; n++) if (!criteria.some((c) => c.id === `own-${n}`)) return `own-${n}`;
}
