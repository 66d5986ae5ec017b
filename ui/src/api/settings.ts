// How a practical is set to a class: what is asked, and what is forgotten when it changes.
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { answer, api, type Schemas } from '@/api/client';
import { keys } from '@/api/keys';

export type Settings = Schemas['Settings'];
type Where = { class: string; practical: string };

export const settingsOf = (where: Where) =>
  answer(api.GET('/classes/{class}/practicals/{practical}/settings', { params: { path: where } }));

export function useSettings(where: Where) {
  return useQuery({
    queryKey: computed(() => ['settings', where.class, where.practical]),
    queryFn: () => settingsOf(where),
    refetchOnMount: 'always',
  });
}

/** Everything that is done to it. */
export function useSettingsChange(where: Where) {
  const client = useQueryClient();
  const at = { params: { path: where } };
  const done = {
    onSuccess: (now: Settings | void) => {
      if (now) client.setQueryData(['settings', where.class, where.practical], now);
      return client.invalidateQueries({ queryKey: keys.shelf });
    },
  };
  return {
    save: useMutation({
      mutationFn: (body: Schemas['NewSettings']) =>
        answer(api.PUT('/classes/{class}/practicals/{practical}/settings', { ...at, body })),
      ...done,
    }),
    move: useMutation({
      mutationFn: (people: string[]) =>
        answer(api.POST('/classes/{class}/practicals/{practical}/revision', { ...at, body: { people } })),
      ...done,
    }),
    unset: useMutation({
      mutationFn: async (): Promise<void> =>
        void (await answer(api.DELETE('/classes/{class}/practicals/{practical}', at))),
      ...done,
    }),
  };
}

export async function deal(where: Where, codes: string[], how: 'in-turn' | 'at-random', seed: number) {
  const params = { path: where };
  return (
    await answer(api.POST('/classes/{class}/practicals/{practical}/deal', { params, body: { codes, how, seed } }))
  ).deals;
}

export const preview = (practical: Schemas['Practical']) => answer(api.POST('/plan/preview', { body: { practical } }));

/** Who works with whom, once one of them takes another. */
export async function paired(where: Where, pairs: Record<string, string>, person: string, partner: string) {
  const params = { path: where };
  return (
    await answer(api.POST('/classes/{class}/practicals/{practical}/pair', { params, body: { pairs, person, partner } }))
  ).pairs;
}
