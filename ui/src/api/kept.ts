// What this device keeps of what the server said, so that a bench opens
// without the network. Cleared when the person signs out.
const prefix = 'exactflask.kept.';
const most = 12; // notebooks, shelves and persons together

type Kept = { at: number; value: unknown };

/** Keeps a copy; where the device has no room, older copies go first. */
export function keep(key: string, value: unknown) {
  const text = JSON.stringify({ at: Date.now(), value } satisfies Kept);
  for (;;) {
    try {
      localStorage.setItem(prefix + key, text);
      break;
    } catch {
      if (!dropOldest(prefix + key)) return; // a copy is a convenience, not a record
    }
  }
  while (copies().length > most) dropOldest(prefix + key);
}

export function kept<T>(key: string): T | undefined {
  const text = localStorage.getItem(prefix + key);
  return text === null ? undefined : ((JSON.parse(text) as Kept).value as T);
}

export function forget(key: string) {
  localStorage.removeItem(prefix + key);
}

export function forgetAll() {
  copies().forEach((k) => localStorage.removeItem(k));
}

function copies() {
  return Object.keys(localStorage).filter((k) => k.startsWith(prefix));
}

/** Makes room by removing the oldest copy but one; false when there is none. */
export function dropOldest(but = ''): boolean {
  const age = (k: string) => (JSON.parse(localStorage.getItem(k)!) as Kept).at;
  const oldest = copies()
    .filter((k) => k !== but)
    .sort((a, b) => age(a) - age(b))[0];
  if (oldest) localStorage.removeItem(oldest);
  return oldest !== undefined;
}
