// How marks are written, and which keys give them.
import type { DeskRow, MarkLine } from '@/api/marking';

/** Marks as they are written: 1, 1½, 2¼. */
export function written(marks: number | undefined | null): string {
  if (marks === undefined || marks === null) return '–';
  const whole = Math.floor(marks);
  const rest = { 0.25: '¼', 0.5: '½', 0.75: '¾' }[marks - whole];
  if (!rest) return String(marks);
  return whole ? `${whole}${rest}` : rest;
}

/** What a digit gives for a criterion; nothing where that is more than can be had. */
export function byDigit(key: string, most: number): number | undefined {
  const n = Number(key);
  return /^\d$/.test(key) && n <= most ? n : undefined;
}

/** The next line that nobody awarded, from one on and round; -1: none. */
export function nextOpen(lines: MarkLine[], from: number): number {
  for (let k = 1; k <= lines.length; k++) {
    const i = (from + k) % lines.length;
    if (lines[i]!.award?.marks === undefined) return i;
  }
  return -1;
}

/** The report after this one, or before; the next that is not marked wholly where asked. */
export function neighbour(rows: DeskRow[], now: string, step: 1 | -1, open = false): string {
  const at = rows.findIndex((r) => r.notebook === now);
  for (let i = at + step; i >= 0 && i < rows.length; i += step)
    if (!open || rows[i]!.open > 0) return rows[i]!.notebook;
  return '';
}
