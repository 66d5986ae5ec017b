// Which practicals a shelf shows, and in which order.
import type { Schemas } from '@/api/client';

type Item = Schemas['ShelfItem'];

/** What is due next stands first, then what is never due; what is over, or not set any more, last. */
export function inOrder(items: Item[]): Item[] {
  const rank = (p: Item) => (p.ended || p.over ? 2 : p.times?.due ? 0 : 1);
  return [...items].sort((a, b) => rank(a) - rank(b) || (a.times?.due ?? '').localeCompare(b.times?.due ?? ''));
}

/** Those in which every word that was searched for stands. */
export function found(items: Item[], search: string): Item[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return items.filter((p) =>
    words.every((w) => `${p.title} ${p.purpose} ${p.setting.equation}`.toLowerCase().includes(w)),
  );
}
