// Server state: what is asked, and what is forgotten when it changes. Where the
// server cannot be reached, what it said last stands in.
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query';
import type { MaybeRefOrGetter } from 'vue';
import { computed, toValue } from 'vue';
import { answer, api } from '@/api/client';
import { orKept } from '@/api/kept';
import { keys } from '@/api/keys';

export function useAbout() {
  return useQuery({ queryKey: keys.about, queryFn: () => answer(api.GET('/about')), staleTime: Infinity });
}

export const theShelf = {
  queryKey: keys.shelf,
  queryFn: () => orKept('shelf', () => answer(api.GET('/shelf'))),
};

export const useShelf = (enabled: MaybeRefOrGetter<boolean> = true) =>
  useQuery({ ...theShelf, enabled: computed(() => toValue(enabled)), refetchOnMount: 'always' });

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

const theCatalogue = {
  queryKey: keys.catalogue,
  queryFn: () => answer(api.GET('/catalogue')),
  staleTime: 60_000,
};

export const useCatalogue = () => useQuery({ ...theCatalogue, shallow: true });

/** What a practical of one's own begins with. */
export function useFresh() {
  const client = useQueryClient();
  return async () => (await client.ensureQueryData(theCatalogue)).fresh;
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
