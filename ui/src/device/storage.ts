// What this device keeps. A browser may keep nothing (blocked), or have no room
// (full): what is written then lives in this window only, and that is said.
import { reactive } from 'vue';

export const device = reactive({ blocked: false, full: false });

const here = new Map<string, string>(); // what the device would not take

function store(): Storage | undefined {
  try {
    return window.localStorage ?? undefined;
  } catch {
    return undefined;
  }
}

export function read(place: string): string | null {
  return here.get(place) ?? store()?.getItem(place) ?? null;
}

/** What was written at a place as JSON; undefined where nothing can be read there. */
export function readValue<T>(place: string): T | undefined {
  const text = read(place);
  try {
    return text === null ? undefined : (JSON.parse(text) as T);
  } catch {
    return undefined;
  }
}

/** Writes, making room by what makeRoom gives up; false where it is in this window only. */
export function write(place: string, value: unknown, makeRoom: () => boolean = () => false): boolean {
  const text = JSON.stringify(value);
  const kept = store();
  for (;;) {
    try {
      if (!kept) throw new Error('blocked');
      kept.setItem(place, text);
      here.delete(place);
      device.full = false;
      return true;
    } catch {
      if (kept && makeRoom()) continue;
      here.set(place, text);
      if (!kept || !takesAnything(kept)) device.blocked = true;
      else device.full = true;
      return false;
    }
  }
}

function takesAnything(kept: Storage): boolean {
  try {
    return kept.length > 0;
  } catch {
    return false;
  }
}

export function remove(place: string) {
  here.delete(place);
  store()?.removeItem(place);
}

/** The places that begin like this, on the device and in this window. */
export function places(prefix: string): string[] {
  const all = new Set(here.keys());
  const kept = store();
  if (kept) for (let i = 0; i < kept.length; i++) all.add(kept.key(i)!);
  return [...all].filter((k) => k.startsWith(prefix));
}

/** Calls back when another window has changed something at a place that begins like this. */
export function whenChangedElsewhere(prefix: string, then: () => void) {
  window.addEventListener('storage', (e) => {
    if (e.key === null || e.key.startsWith(prefix)) then();
  });
}
