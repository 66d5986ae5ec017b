// What waits for those who teach, and where practicals stand.
import { useQuery } from '@tanstack/vue-query';
import { computed, toValue, type MaybeRefOrGetter } from 'vue';
import { answer, api } from '@/api/client';
import { orKept } from '@/api/kept';
import { keys } from '@/api/keys';

const often = 20_000; // ms; the board itself is live

export const useHome = (enabled: MaybeRefOrGetter<boolean>) =>
  useQuery({
    queryKey: keys.home,
    queryFn: () => orKept('home', () => answer(api.GET('/home'))),
    enabled: computed(() => toValue(enabled)),
    refetchOnMount: 'always',
    refetchInterval: often,
  });

export const useClassPracticals = (id: MaybeRefOrGetter<string>, enabled: MaybeRefOrGetter<boolean> = true) =>
  useQuery({
    enabled: computed(() => toValue(enabled)),
    queryKey: computed(() => keys.classPracticals(toValue(id))),
    queryFn: () => answer(api.GET('/classes/{class}/practicals', { params: { path: { class: toValue(id) } } })),
    refetchOnMount: 'always',
    refetchInterval: often,
  });

export const useFind = (text: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: computed(() => ['find', toValue(text)]),
    queryFn: async () => (await answer(api.GET('/find', { params: { query: { text: toValue(text) } } }))).hits,
    enabled: computed(() => toValue(text).trim() !== ''),
    placeholderData: (before) => before,
  });

type Where = { class: string; practical: string };

export const useStations = (where: MaybeRefOrGetter<Where>, enabled: MaybeRefOrGetter<boolean>) =>
  useQuery({
    queryKey: computed(() => keys.stations(toValue(where))),
    queryFn: () =>
      answer(api.GET('/classes/{class}/practicals/{practical}/stations', { params: { path: toValue(where) } })),
    enabled: computed(() => toValue(enabled)),
    refetchOnMount: 'always',
    refetchInterval: often,
  });

/** The notebooks of a practical in a class, from one on. */
export const useClassNotebooks = (
  where: MaybeRefOrGetter<Where>,
  from: MaybeRefOrGetter<number>,
  enabled: MaybeRefOrGetter<boolean>,
) =>
  useQuery({
    queryKey: computed(() => [...keys.stations(toValue(where)), 'notebooks', toValue(from)]),
    queryFn: () =>
      answer(
        api.GET('/classes/{class}/practicals/{practical}/notebooks', {
          params: { path: toValue(where), query: { from: toValue(from) } },
        }),
      ),
    enabled: computed(() => toValue(enabled)),
    placeholderData: (before) => before,
    refetchOnMount: 'always',
  });
