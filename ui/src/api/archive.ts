// Files that are too large to wait for in silence.
import { Offline } from '@/api/client';
import { say } from '@/words';

/** All reports of a class as one archive; tells how many bytes have come, and of how many reports. */
export async function classArchive(
  where: { class: string; practical: string },
  signal: AbortSignal,
  tell: (bytes: number, reports: number) => void,
): Promise<Blob> {
  const res = await fetch(`/api/classes/${where.class}/practicals/${where.practical}/archive.zip`, { signal }).catch(
    (e: unknown) => {
      throw signal.aborted ? e : new Offline();
    },
  );
  if (!res.ok || !res.body) throw new Error(say('archive.failed'));
  const reports = Number(res.headers.get('X-Reports')) || 0;
  const parts: BlobPart[] = [];
  let bytes = 0;
  const reader = res.body.getReader();
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    parts.push(next.value);
    bytes += next.value.length;
    tell(bytes, reports);
  }
  return new Blob(parts, { type: 'application/zip' });
}
