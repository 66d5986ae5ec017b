// What is done to classes: after it, what the person may do is another.
import { useMutation, useQueryClient } from '@tanstack/vue-query';
import { toValue, type MaybeRefOrGetter } from 'vue';
import type { ClassPage } from '@/api/classes';
import { answer, api, type Schemas } from '@/api/client';
import { keys } from '@/api/keys';
import { useSession } from '@/session/session';

export function useMakeClass() {
  const client = useQueryClient();
  const session = useSession();
  return useMutation({
    mutationFn: (body: Schemas['NewClass']) => answer(api.POST('/classes', { body })),
    onSuccess: async (page) => {
      client.setQueryData(keys.class(page.id), page);
      await Promise.all([session.check(), client.invalidateQueries({ queryKey: keys.classes })]);
    },
  });
}

/** Everything that is done to a class; each answer is the class as it is then. */
export function useClassChange(id: MaybeRefOrGetter<string>) {
  const client = useQueryClient();
  const session = useSession();
  const path = () => ({ class: toValue(id) });
  const member = (person: string) => ({ ...path(), person });
  const asks = {
    set: (body: Schemas['Set-classRequest']) => api.PUT('/classes/{class}', { params: { path: path() }, body }),
    openCode: (minutes: number) => api.PUT('/classes/{class}/code', { params: { path: path() }, body: { minutes } }),
    closeCode: () => api.DELETE('/classes/{class}/code', { params: { path: path() } }),
    notice: (text: string) => api.POST('/classes/{class}/notices', { params: { path: path() }, body: { text } }),
    dropNotice: (notice: string) =>
      api.DELETE('/classes/{class}/notices/{notice}', { params: { path: { ...path(), notice } } }),
    place: (person: string, body: Schemas['Place']) =>
      api.PUT('/classes/{class}/people/{person}', { params: { path: member(person) }, body }),
    rename: (person: string, name: string) =>
      api.PUT('/classes/{class}/people/{person}/name', { params: { path: member(person) }, body: { name } }),
    remove: (person: string) => api.DELETE('/classes/{class}/people/{person}', { params: { path: member(person) } }),
    move: (person: string, to: string) =>
      api.POST('/classes/{class}/people/{person}/move', { params: { path: member(person) }, body: { to } }),
  };
  const change = useMutation({
    mutationFn: (ask: (a: typeof asks) => ReturnType<(typeof asks)['closeCode']>) => answer<ClassPage>(ask(asks)),
    onSuccess: async (page) => {
      client.setQueryData(keys.class(page.id), page);
      await Promise.all([
        client.invalidateQueries({ queryKey: keys.classes }),
        client.invalidateQueries({ queryKey: keys.shelf }),
        client.invalidateQueries({ queryKey: keys.acts(page.id) }),
        session.check(),
      ]);
    },
  });
  return change;
}
