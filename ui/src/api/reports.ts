// Reports: handing in, giving back, pictures.
import { answer, api, type Schemas } from '@/api/client';

export type Submission = Schemas['Submission'];

export const handIn = (id: string, entries: number) =>
  answer(api.POST('/notebooks/{id}/submissions', { params: { path: { id } }, body: { entries } }));

export const giveBack = async (id: string, version: number, reason: string): Promise<void> =>
  void (await answer(
    api.POST('/notebooks/{id}/submissions/{version}/return', { params: { path: { id, version } }, body: { reason } }),
  ));

export const sendPicture = (id: string, picture: Blob) =>
  answer(
    api.POST('/notebooks/{id}/pictures', {
      params: { path: { id } },
      body: picture as unknown as string, // as it is, no JSON
      bodySerializer: (b: unknown) => b as Blob,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  );
