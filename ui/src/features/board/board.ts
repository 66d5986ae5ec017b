// What the board's picture needs beside the words of the server.
import type { BoardRow } from '@/api/lesson';

export type Filter = 'all' | 'help' | 'hand' | 'not-done';

export function inFilter(b: BoardRow, filter: Filter): boolean {
  switch (filter) {
    case 'help':
      return b.state === 'hand' || b.state === 'help' || b.state === 'look';
    case 'hand':
      return b.state === 'hand';
    case 'not-done':
      return !b.done;
    default:
      return true;
  }
}

/** The common axis of all titres, with a little room on both sides; mL. */
export function spanOf(rows: BoardRow[]): [number, number] {
  const all = rows.flatMap((r) => r.titres.filter((t) => t.state !== 'aside').map((t) => t.value)).filter((v) => v > 0);
  if (!all.length) return [0, 1];
  const low = Math.min(...all);
  const high = Math.max(...all);
  const room = Math.max(0.5, (high - low) * 0.05);
  return [low - room, high + room];
}

/** Where a value lies on it, 0 to 1; at the edge where it lies outside. */
export const placeOn = ([low, high]: [number, number], v: number) => Math.min(1, Math.max(0, (v - low) / (high - low)));
