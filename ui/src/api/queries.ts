// Server state: what is asked, and what is forgotten when it changes. Where the
// server cannot be reached, what it said last stands in.
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query';
import type { MaybeRefOrGetter } from 'vue';
import { computed, toValue } from 'vue';
import { answer, api, Offline, Problem, type Person, type Schemas } from '@/api/client';
import { forget, forgetAll, keep, kept } from '@/api/kept';

export const keys = {
  me: ['me'] as const,
  about: ['about'] as const,
  shelf: ['shelf'] as const,
  notebook: (id: string) => ['notebook', id] as const,
  catalogue: ['catalogue'] as const,
  report: (id: string) => ['report', id] as const,
  journal: (id: string) => ['journal', id] as const,
};

/** Asks the server and keeps its answer; the kept answer stands in while there is no network. */
async function orKept<T>(key: string, ask: () => Promise<T>): Promise<T> {
  try {
    const fresh = await ask();
    keep(key, fresh);
    return fresh;
  } catch (error) {
    const old = error instanceof Offline ? kept<T>(key) : undefined;
    if (old === undefined) throw error;
    return old;
  }
}

/** Who is signed in; null when nobody is. */
export function useMe() {
  return useQuery({ queryKey: keys.me, queryFn: fetchMe, staleTime: 60_000 });
}

export async function fetchMe(): Promise<Person | null> {
  try {
    return await orKept('me', async () => (await answer(api.GET('/me'))).person);
  } catch (error) {
    if (error instanceof Problem && error.status === 401) {
      forget('me');
      return null;
    }
    throw error;
  }
}

export function useAbout() {
  return useQuery({ queryKey: keys.about, queryFn: () => answer(api.GET('/about')), staleTime: Infinity });
}

export function useShelf() {
  return useQuery({
    queryKey: keys.shelf,
    queryFn: () => orKept('shelf', () => answer(api.GET('/shelf'))),
    refetchOnMount: 'always',
  });
}

export function useNotebook(id: MaybeRefOrGetter<string>) {
  return useQuery({
    shallow: true, // it comes whole; what did not change stays the same object
    queryKey: computed(() => keys.notebook(toValue(id))),
    queryFn: () =>
      orKept('notebook.' + toValue(id), () =>
        answer(api.GET('/notebooks/{id}', { params: { path: { id: toValue(id) } } })),
      ),
  });
}

export function useJournal(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => keys.journal(toValue(id))),
    queryFn: () => answer(api.GET('/notebooks/{id}/journal', { params: { path: { id: toValue(id) } } })),
    refetchOnMount: 'always',
  });
}

export function useReport(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => keys.report(toValue(id))),
    queryFn: () =>
      orKept('report.' + toValue(id), () =>
        answer(api.GET('/notebooks/{id}/report', { params: { path: { id: toValue(id) } } })),
      ),
    refetchOnMount: 'always',
  });
}

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { username: string; password: string }) => answer(api.POST('/session', { body })),
    onSuccess: ({ person }) => {
      client.removeQueries({ predicate: (q) => q.queryKey[0] !== 'about' && q.queryKey[0] !== 'me' });
      if (kept<Person>('me')?.id !== person.id) forgetAll();
      keep('me', person);
      client.setQueryData(keys.me, person);
    },
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => answer(api.DELETE('/session')),
    onSuccess: () => {
      forgetAll();
      client.clear();
      client.setQueryData(keys.me, null);
    },
  });
}

export function usePreferences() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas['Preferences']) => answer(api.PUT('/me/preferences', { body })),
    onSuccess: ({ person }) => {
      client.setQueryData(keys.me, person);
      void client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' && q.queryKey[0] !== 'about' });
    },
  });
}

export function useBegin() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (path: { class: string; practical: string }) =>
      answer(api.POST('/classes/{class}/practicals/{practical}/notebook', { params: { path } })),
    onSuccess: (notebook) => client.setQueryData(keys.notebook(notebook.id), notebook),
  });
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
