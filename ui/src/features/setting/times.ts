// Times as a field for day and hour shows them, in the reader's own zone.

/** 2026-11-25T14:30, from a time of the server. */
export function whenLocal(at?: string): string {
  if (!at) return '';
  const d = new Date(at);
  return new Date(d.getTime() - d.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}

/** A time for the server, from what was typed. */
export const whenTyped = (text: string): string | undefined => (text ? new Date(text).toISOString() : undefined);
