// Classes and people: what is asked, and what is forgotten when it changes.
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, toValue, type MaybeRefOrGetter } from 'vue';
import { answer, api, asNow, type Schemas } from '@/api/client';
import { keys } from '@/api/queries';
import { useSession } from '@/session/session';

export type ClassPage = Schemas['ClassPage'];
export type Member = Schemas['Member'];
export type Slip = Schemas['Slip'];
export type RosterRow = Schemas['RosterRow'];
export type Account = Schemas['Account'];

const all = ['classes'] as const;
const one = (id: string) => ['class', id] as const;
const everyone = ['people'] as const;

export function useClasses() {
  return useQuery({
    queryKey: all,
    queryFn: async () => (await answer(api.GET('/classes'))).classes,
    refetchOnMount: 'always',
  });
}

export function useMakeClass() {
  const client = useQueryClient();
  const session = useSession();
  return useMutation({
    mutationFn: (body: Schemas['NewClass']) => answer(api.POST('/classes', { body })),
    onSuccess: async (page) => {
      client.setQueryData(one(page.id), page);
      await Promise.all([session.check(), client.invalidateQueries({ queryKey: all })]);
    },
  });
}

export function useClassPage(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => one(toValue(id))),
    queryFn: () => answer(api.GET('/classes/{class}', { params: { path: { class: toValue(id) } } })),
    refetchOnMount: 'always',
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
    remove: (person: string) => api.DELETE('/classes/{class}/people/{person}', { params: { path: member(person) } }),
    move: (person: string, to: string) =>
      api.POST('/classes/{class}/people/{person}/move', { params: { path: member(person) }, body: { to } }),
  };
  const change = useMutation({
    mutationFn: (ask: (a: typeof asks) => ReturnType<(typeof asks)['closeCode']>) => answer<ClassPage>(ask(asks)),
    onSuccess: async (page) => {
      client.setQueryData(one(page.id), page);
      await Promise.all([
        client.invalidateQueries({ queryKey: all }),
        client.invalidateQueries({ queryKey: keys.shelf }),
        client.invalidateQueries({ queryKey: acts(page.id) }),
        session.check(),
      ]);
    },
  });
  return change;
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
  const done = { onSuccess: () => client.invalidateQueries({ queryKey: one(toValue(id)) }) };
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

const acts = (id: string) => ['acts', id] as const;

/** Who changed what in a class, or, without one, what administrators did; before one of the lines, 0: the newest. */
export function useActs(id: MaybeRefOrGetter<string | undefined>, before: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => [...acts(toValue(id) ?? ''), toValue(before)]),
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
    queryKey: everyone,
    queryFn: async () => (await answer(api.GET('/people'))).people,
    refetchOnMount: 'always',
  });
}

/** What an administrator does to accounts; what gives a password answers with its slip. */
export function useAccountChange() {
  const client = useQueryClient();
  const done = {
    onSuccess: () => Promise.all([everyone, all, acts('')].map((queryKey) => client.invalidateQueries({ queryKey }))),
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
