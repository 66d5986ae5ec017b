// Classes and people: what is asked, and what is forgotten when it changes.
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, toValue, type MaybeRefOrGetter } from 'vue';
import { answer, api, asNow, type Schemas } from '@/api/client';
import { keys } from '@/api/keys';

export type ClassPage = Schemas['ClassPage'];
export type Member = Schemas['Member'];
export type Slip = Schemas['Slip'];
export type RosterRow = Schemas['RosterRow'];
export type Account = Schemas['Account'];

export function useClasses() {
  return useQuery({
    queryKey: keys.classes,
    queryFn: async () => (await answer(api.GET('/classes'))).classes,
    refetchOnMount: 'always',
  });
}

export function useClassPage(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => keys.class(toValue(id))),
    queryFn: () => answer(api.GET('/classes/{class}', { params: { path: { class: toValue(id) } } })),
    refetchOnMount: 'always',
  });
}

export function useReadRoster(id: MaybeRefOrGetter<string>) {
  return useMutation({
    mutationFn: (text: string) =>
      answer(api.POST('/classes/{class}/roster', { params: { path: { class: toValue(id) } }, body: { text } })),
  });
}

/** What gives people passwords: they are shown once, and kept nowhere on the device. */
export function useSlips(id: MaybeRefOrGetter<string>) {
  const client = useQueryClient();
  const done = { onSuccess: () => client.invalidateQueries({ queryKey: keys.class(toValue(id)) }) };
  const path = () => ({ params: { path: { class: toValue(id) } } });
  return {
    add: useMutation({
      mutationFn: async (people: Schemas['Added'][]) =>
        (await answer(api.POST('/classes/{class}/people', { ...path(), body: { people } }))).slips,
      ...done,
    }),
    renew: useMutation({
      mutationFn: async (people: string[]) =>
        (await answer(api.POST('/classes/{class}/passwords', { ...path(), body: { people } }))).slips,
      ...done,
    }),
  };
}

/** Who changed what in a class, or, without one, what administrators did; before one of the lines, 0: the newest. */
export function useActs(id: MaybeRefOrGetter<string | undefined>, before: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => [...keys.acts(toValue(id) ?? ''), toValue(before)]),
    queryFn: async () => {
      const query = { before: toValue(before) };
      const one = toValue(id);
      const asked = one
        ? api.GET('/classes/{class}/acts', { params: { path: { class: one }, query } })
        : api.GET('/acts', { params: { query } });
      return (await answer(asked)).acts;
    },
    refetchOnMount: 'always',
  });
}

export function useAccounts() {
  return useQuery({
    queryKey: keys.people,
    queryFn: async () => (await answer(api.GET('/people'))).people,
    refetchOnMount: 'always',
  });
}

/** What an administrator does to accounts; what gives a password answers with its slip. */
export function useAccountChange() {
  const client = useQueryClient();
  const done = {
    onSuccess: () =>
      Promise.all([keys.people, keys.classes, keys.acts('')].map((queryKey) => client.invalidateQueries({ queryKey }))),
  };
  const path = (person: string) => ({ params: { path: { person } } });
  return {
    add: useMutation({
      mutationFn: (body: Schemas['Add-accountRequest']) => answer(api.POST('/people', { body })),
      ...done,
    }),
    standing: useMutation({
      mutationFn: (a: { person: string; standing: Account['standing'] }) =>
        answer(api.PUT('/people/{person}/standing', { ...path(a.person), body: { standing: a.standing } })),
      ...done,
    }),
    password: useMutation({
      mutationFn: (person: string) => answer(api.POST('/people/{person}/password', path(person))),
      ...done,
    }),
    takeOut: useMutation({
      mutationFn: (person: string) => answer(api.DELETE('/people/{person}', path(person))),
      ...done,
    }),
    give: useMutation({
      mutationFn: (a: { class: string; username: string }) =>
        answer(
          api.PUT('/classes/{class}/instructor', {
            params: { path: { class: a.class } },
            body: { username: a.username },
          }),
        ),
      ...done,
    }),
  };
}

export const invitation = (code: string) => answer(api.GET('/join/{code}', { params: { path: { code } }, ...asNow() }));
export const suggestUsername = async (code: string, name: string) =>
  (await answer(api.GET('/join/{code}/username', { params: { path: { code }, query: { name } }, ...asNow() })))
    .username;
export const join = (body: Schemas['JoinInputBody']) => answer(api.POST('/join', { body, ...asNow() }));
export const setUp = (body: Schemas['Set-upRequest']) => answer(api.POST('/setup', { body, ...asNow() }));
