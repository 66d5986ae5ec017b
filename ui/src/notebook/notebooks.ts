// The notebooks of whoever is here: asked of the server, or as they are kept on this device.
import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/vue-query';
import type { MaybeRefOrGetter } from 'vue';
import { v7 as uuid } from 'uuid';
import { computed, toValue } from 'vue';
import { answer, api, Offline, type Notebook } from '@/api/client';
import { keep, kept, orKept } from '@/api/kept';
import { keys } from '@/api/keys';
import { theShelf } from '@/api/queries';
import { owner } from '@/device/owner';
import { useOutbox } from '@/notebook/outbox';
import { whenIdle } from '@/shared/idle';
import { beginHere, begunHere, idThere, isBegunHere } from '@/notebook/begun';

type Outbox = ReturnType<typeof useOutbox>;

const fetched = (id: string, outbox: Outbox) =>
  orKept(
    'notebook.' + id,
    () => answer(api.GET('/notebooks/{id}', { params: { path: { id } } })),
    outbox.settled,
    // A journal only grows: one with fewer entries is from before, whichever window asked for it.
    (n) => outbox.isOld(n) || n.sheet.entries < (kept<Notebook>('notebook.' + id)?.sheet.entries ?? 0),
  );

/** One that was begun here is what it was then, until the server has it. */
async function notebookOf(id: string, outbox: Outbox = useOutbox()) {
  if (isBegunHere(id)) return begunHere(id)!.notebook;
  const notebook = await fetched(idThere(id), outbox);
  // Asked for before something was acknowledged, and answered after: once more.
  return outbox.isOld(notebook) ? fetched(idThere(id), outbox) : notebook;
}

export function useNotebook(id: MaybeRefOrGetter<string>) {
  const outbox = useOutbox();
  return useQuery({
    shallow: true, // it comes whole; what did not change stays the same object
    queryKey: computed(() => keys.notebook(toValue(id))),
    queryFn: () => notebookOf(toValue(id), outbox),
  });
}

/** Asks for a notebook before there is a view of it. */
export const askForNotebook = (client: QueryClient, id: string) =>
  client.prefetchQuery({ queryKey: keys.notebook(id), queryFn: () => notebookOf(id) });

/** Begins a notebook; without the network here, to be begun on the server when there is one. */
export function useBegin() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (where: { class: string; practical: string }): Promise<Notebook> => {
      const id = uuid();
      try {
        return await answer(
          api.POST('/classes/{class}/practicals/{practical}/notebook', { params: { path: where }, body: { id } }),
        );
      } catch (error) {
        const blank = error instanceof Offline ? kept<Notebook>(blankOf(where)) : undefined;
        if (!blank) throw error;
        return beginHere(blank, where, id);
      }
    },
    onSuccess: (notebook) => {
      client.setQueryData(keys.notebook(notebook.id), notebook);
      // What is kept of the shelf knows of it too: it may have to do without the network.
      whenIdle(() => void client.prefetchQuery(theShelf));
    },
  });
}

const blankOf = (where: { class: string; practical: string }) => `blank.${where.class}.${where.practical}`;

/** Keeps what a bench needs to begin or to go on without the network. */
export async function keepForOffline(where: { class: string; practical: string }, id?: string) {
  if (id) return void (await fetched(id, useOutbox()).catch(() => undefined));
  if (kept(blankOf(where))) return;
  const who = owner.id;
  const blank = await answer(
    api.GET('/classes/{class}/practicals/{practical}/notebook', { params: { path: where } }),
  ).catch(() => undefined);
  if (blank && who === owner.id) keep(blankOf(where), blank);
}

export function useAddPartner(id: MaybeRefOrGetter<string>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (username: string) =>
      answer(api.POST('/notebooks/{id}/partners', { params: { path: { id: toValue(id) } }, body: { username } })),
    onSuccess: (notebook) => client.setQueryData(keys.notebook(notebook.id), notebook),
  });
}

/** Parts from a partner; what they wrote stays. */
export function usePart(id: MaybeRefOrGetter<string>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (name: string) =>
      answer(api.DELETE('/notebooks/{id}/partners', { params: { path: { id: toValue(id) }, query: { name } } })),
    onSuccess: (notebook) => client.setQueryData(keys.notebook(notebook.id), notebook),
  });
}
