// Copies of what the server said, so that a bench opens without the network. They
// belong to the person who was told it, and go when that person signs out.
import { Offline } from '@/api/client';
import { mine, owner } from '@/device/owner';
import { places, read, readValue, remove, write } from '@/device/storage';

const most = 16; // notebooks, shelves and reports together
type Kept = { at: number; value: unknown };

const prefix = () => mine('kept');

/** Keeps a copy; where the device has no room, older copies go first. */
export function keep(key: string, value: unknown) {
  if (!owner.id) return;
  const place = prefix() + key;
  const kept = write(place, { at: Date.now(), value } satisfies Kept, () => dropOldest(place));
  if (!kept) remove(place); // a copy is a convenience, not a record
  while (places(prefix()).length > most) dropOldest(place);
}

export function kept<T>(key: string): T | undefined {
  return owner.id ? (readValue<Kept>(prefix() + key)?.value as T | undefined) : undefined;
}

export function forgetAll() {
  if (owner.id) places(prefix()).forEach(remove);
}

/** Makes room by removing the oldest copy but one, whoever it belongs to; false when there is none. */
export function dropOldest(but = ''): boolean {
  const age = (place: string) => Number(/"at":(\d+)/.exec(read(place)?.slice(0, 40) ?? '')?.[1] ?? 0);
  const oldest = places('exactflask.kept.')
    .filter((k) => k !== but)
    .sort((a, b) => age(a) - age(b))[0];
  if (oldest) remove(oldest);
  return oldest !== undefined;
}

/**
 * Asks the server and keeps its answer, of which it tells then; the kept answer stands in while there is no
 * network. An answer that was overtaken on its way is not kept: what stands here is newer.
 */
export async function orKept<T>(
  key: string,
  ask: () => Promise<T>,
  then?: (fresh: T) => void,
  overtaken: (fresh: T) => boolean = () => false,
): Promise<T> {
  const who = owner.id;
  try {
    const fresh = await ask();
    if (who === owner.id && !overtaken(fresh)) {
      // nobody else has come meanwhile
      keep(key, fresh);
      then?.(fresh);
    }
    return fresh;
  } catch (error) {
    const old = error instanceof Offline ? kept<T>(key) : undefined;
    if (old === undefined) throw error;
    return old;
  }
}
