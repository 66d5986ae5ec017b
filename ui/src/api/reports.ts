// Reports: handing in, giving back, pictures.
import { answer, api } from '@/api/client';
import { base64 } from '@/shared/base64';

export const handIn = (id: string, entries: number) =>
  answer(api.POST('/notebooks/{id}/submissions', { params: { path: { id } }, body: { entries } }));

export const giveBack = async (id: string, version: number, reason: string): Promise<void> =>
  void (await answer(
    api.POST('/notebooks/{id}/submissions/{version}/return', { params: { path: { id, version } }, body: { reason } }),
  ));

export const takeBack = async (id: string, version: number): Promise<void> =>
  void (await answer(
    api.POST('/notebooks/{id}/submissions/{version}/take-back', { params: { path: { id, version } } }),
  ));

/** A body that is sent as it is, and not as JSON. */
const raw = (body: Blob) => ({
  body: body as unknown as string,
  bodySerializer: (b: unknown) => b as Blob,
  headers: { 'Content-Type': 'application/octet-stream' },
});

export const sendPicture = (id: string, picture: Blob) =>
  answer(api.POST('/notebooks/{id}/pictures', { params: { path: { id } }, ...raw(picture) }));

/** Readings out of a table of text; nothing is written. */
export async function readReadings(id: string, file: Blob) {
  const text = base64(new Uint8Array(await file.arrayBuffer()));
  return (await answer(api.POST('/notebooks/{id}/readings', { params: { path: { id } }, body: { text } }))).rows;
}

/** Takes a document or an archive in as a notebook of a student. */
export const takeIn = (classId: string, person: string, file: Blob) =>
  answer(
    api.POST('/classes/{class}/people/{person}/imports', {
      params: { path: { class: classId, person } },
      ...raw(file),
    }),
  );

/** Points of a run out of a table of text, with its columns as they are said (-1: guessed). */
export async function readPoints(
  id: string,
  file: Blob,
  columns: { volume: number; reading: number; temperature: number },
) {
  const text = base64(new Uint8Array(await file.arrayBuffer()));
  return answer(api.POST('/notebooks/{id}/points', { params: { path: { id } }, body: { text, ...columns } }));
}
