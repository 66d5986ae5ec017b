// Server state: what is asked, and what is forgotten when it changes. Where the
// server cannot be reached, what it said last stands in.
import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/vue-query';
import type { MaybeRefOrGetter } from 'vue';
import { v7 as uuid } from 'uuid';
import { computed, toValue } from 'vue';
import { answer, api, Offline, type Notebook } from '@/api/client';
import { keep, kept } from '@/api/kept';
import { owner } from '@/device/owner';
import { useSession } from '@/session/session';
import { useOutbox } from '@/notebook/outbox';
import { whenIdle } from '@/shared/idle';
import { beginHere, begunHere, idThere, isBegunHere } from '@/notebook/begun';

export const keys = {
  about: ['about'] as const,
  shelf: ['shelf'] as const,
  notebook: (id: string) => ['notebook', id] as const,
  catalogue: ['catalogue'] as const,
  report: (id: string) => ['report', id] as const,
  ownMarks: (id: string) => ['own-marks', id] as const,
  journal: (id: string) => ['journal', id] as const,
  signIns: ['sign-ins'] as const,
};

type Outbox = ReturnType<typeof useOutbox>;

/** Asks the server and keeps its answer, of which it tells then; the kept answer stands in while there is no network. */
async function orKept<T>(key: string, ask: () => Promise<T>, then?: (fresh: T) => void): Promise<T> {
  const who = owner.id;
  try {
    const fresh = await ask();
    if (who === owner.id) {
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

export function useAbout() {
  return useQuery({ queryKey: keys.about, queryFn: () => answer(api.GET('/about')), staleTime: Infinity });
}

const theShelf = {
  queryKey: keys.shelf,
  queryFn: () => orKept('shelf', () => answer(api.GET('/shelf'))),
};

export const useShelf = () => useQuery({ ...theShelf, refetchOnMount: 'always' });

const fetched = (id: string, outbox: Outbox) =>
  orKept('notebook.' + id, () => answer(api.GET('/notebooks/{id}', { params: { path: { id } } })), outbox.settled);

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

/** A page of a journal; 0 is the last one. */
export function useJournal(id: MaybeRefOrGetter<string>, page: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => [...keys.journal(toValue(id)), toValue(page)]),
    queryFn: () =>
      answer(
        api.GET('/notebooks/{id}/journal', { params: { path: { id: toValue(id) }, query: { page: toValue(page) } } }),
      ),
    placeholderData: (before) => before,
    refetchOnMount: 'always',
  });
}

/** The report as it stands, or as a version was handed in. */
export function useReport(id: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number> = 0) {
  const path = () => ({ id: toValue(id) });
  return useQuery({
    queryKey: computed(() => [...keys.report(toValue(id)), toValue(version)]),
    queryFn: () => {
      const query = toValue(version) ? { version: toValue(version) } : {};
      return orKept(`report.${toValue(id)}.${toValue(version)}`, () =>
        answer(api.GET('/notebooks/{id}/report', { params: { path: path(), query } })),
      );
    },
    refetchOnMount: 'always',
  });
}

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

export function useCatalogue() {
  return useQuery({
    queryKey: keys.catalogue,
    queryFn: () => answer(api.GET('/catalogue')),
    staleTime: 60_000,
    shallow: true,
  });
}

export function useAddReaction() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { name: string; equation: string }) => answer(api.POST('/catalogue/reactions', { body })),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.catalogue }),
  });
}

export function useDropReaction() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => answer(api.DELETE('/catalogue/reactions/{id}', { params: { path: { id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.catalogue }),
  });
}

/** Where one is signed in. */
export function useSignIns() {
  return useQuery({
    queryKey: keys.signIns,
    queryFn: async () => (await answer(api.GET('/me/sign-ins'))).signIns,
    refetchOnMount: 'always',
  });
}

export function useEndOtherSignIns() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => answer(api.DELETE('/me/sign-ins')),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.signIns }),
  });
}

export function useChangePassword() {
  const client = useQueryClient();
  const session = useSession();
  return useMutation({
    mutationFn: (body: { old: string; new: string }) => answer(api.PUT('/me/password', { body })),
    onSuccess: () => Promise.all([session.check(), client.invalidateQueries({ queryKey: keys.signIns })]),
  });
}
