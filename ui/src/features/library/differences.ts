// Two practicals beside each other.
import type { Practical } from '@/features/plan/draft';
import { isKey, say } from '@/words';

export type Difference = { path: string; name: string; before: string; after: string };

function leaves(of: unknown, path: string, into: Map<string, string>) {
  if (of === null || typeof of !== 'object') {
    if (of !== undefined) into.set(path, String(of));
    return;
  }
  for (const [key, value] of Object.entries(of)) {
    leaves(value, Array.isArray(of) ? `${path}[${key}]` : path ? `${path}.${key}` : key, into);
  }
}

/** What a field is called, where it has a name; its place in the document otherwise. */
export function nameOf(path: string, units: Record<string, unknown>): string {
  const norm = /^(rules\.(?:norms|school))\.(.+)$/.exec(path);
  if (norm) return `${nameOf(norm[1]!, units)} (${norm[2]})`;
  const made = /^chemistry\.(titrant|analyte)\.made(.*)$/.exec(path);
  if (made) return `${say('edit.group.made')}: ${nameOf('route' + made[2], units)}`;
  const key = `edit.${path.replace(/\[\d+\]/g, '')}`;
  const row = /\[(\d+)\]/.exec(path)?.[1];
  const name = isKey(key) ? say(key, units) : path;
  return row === undefined ? name : `${name} (${Number(row) + 1})`;
}

/** What differs, in the order of the document; the revision itself is no difference. */
export function differences(before: Practical, after: Practical, units: Record<string, unknown>): Difference[] {
  const old = new Map<string, string>();
  const now = new Map<string, string>();
  leaves({ ...before, revision: undefined }, '', old);
  leaves({ ...after, revision: undefined }, '', now);
  return [...new Set([...old.keys(), ...now.keys()])]
    .filter((path) => old.get(path) !== now.get(path))
    .map((path) => ({ path, name: nameOf(path, units), before: old.get(path) ?? '', after: now.get(path) ?? '' }));
}
