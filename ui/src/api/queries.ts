// Server state: what is asked, and what is forgotten when it changes.
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query';
import type { MaybeRefOrGetter } from 'vue';
import { computed, toValue } from 'vue';
import { answer, api, Problem, type Person, type Schemas } from '@/api/client';

export const keys = {
  me: ['me'] as const,
  about: ['about'] as const,
  shelf: ['shelf'] as const,
  notebook: (id: string) => ['notebook', id] as const,
};

/** Who is signed in; null when nobody is. */
export function useMe() {
  return useQuery({ queryKey: keys.me, queryFn: fetchMe, staleTime: 60_000 });
}

export async function fetchMe(): Promise<Person | null> {
  try {
    return (await answer(api.GET('/me'))).person;
  } catch (error) {
    if (error instanceof Problem && error.status === 401) return null;
    throw error;
  }
}

export function useAbout() {
  return useQuery({ queryKey: keys.about, queryFn: () => answer(api.GET('/about')), staleTime: Infinity });
}

export function useShelf() {
  return useQuery({ queryKey: keys.shelf, queryFn: () => answer(api.GET('/shelf')), refetchOnMount: 'always' });
}

export function useNotebook(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => keys.notebook(toValue(id))),
    queryFn: () => answer(api.GET('/notebooks/{id}', { params: { path: { id: toValue(id) } } })),
  });
}

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { username: string; password: string }) => answer(api.POST('/session', { body })),
    onSuccess: ({ person }) => {
      client.removeQueries({ predicate: (q) => q.queryKey[0] !== 'about' && q.queryKey[0] !== 'me' });
      client.setQueryData(keys.me, person);
    },
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => answer(api.DELETE('/session')),
    onSuccess: () => {
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
      void client.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'notebook' || q.queryKey[0] === 'shelf' });
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
