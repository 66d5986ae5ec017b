// A picture on its way into a notebook: scaled down here, and kept by the server.
import { Offline } from '@/api/client';
import { sendPicture } from '@/api/reports';
import { shrink } from '@/shared/shrink';
import { say } from '@/words';

/** Keeps a picture; rejects with what to tell the person. */
export async function keepPicture(notebook: string, file: File) {
  const small = await shrink(file).catch(() => {
    throw new Error(say('report.noPicture', { name: file.name }));
  });
  return await sendPicture(notebook, small).catch((e: unknown) => {
    throw e instanceof Offline ? new Error(say('report.pictureOffline')) : e;
  });
}
