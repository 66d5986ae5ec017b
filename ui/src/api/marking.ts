// Marking a class: the desk, reports with their evidence, the scheme, release, results.
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, toValue, type MaybeRefOrGetter } from 'vue';
import { answer, api, type Schemas } from '@/api/client';
import { keys } from '@/api/keys';

export type Desk = Schemas['Desk'];
export type DeskRow = Schemas['DeskRow'];
export type MarkSheet = Schemas['MarkSheet'];
export type MarkLine = Schemas['MarkLine'];
export type NewAward = Schemas['NewAward'];
export type Scheme = Schemas['Scheme'];
export type Criterion = Schemas['Criterion'];
export type Where = { class: string; practical: string };
export type How = { second: boolean; anonymous: boolean; order: 'name' | 'code' | 'similar' };

const deskKey = (w: Where) => ['desk', w.class, w.practical];
const sheetKey = (id: string, how: How) => ['mark-sheet', id, how.second, how.anonymous];

export function useDesk(where: Where, how: MaybeRefOrGetter<How>) {
  return useQuery({
    queryKey: computed(() => [...deskKey(where), { ...toValue(how) }]),
    queryFn: () =>
      answer(
        api.GET('/classes/{class}/practicals/{practical}/marking', {
          params: { path: where, query: { ...toValue(how) } },
        }),
      ),
    refetchOnMount: 'always',
    placeholderData: (before) => before,
  });
}

const askSheet = (id: string, how: How) =>
  answer(
    api.GET('/notebooks/{id}/marking', {
      params: { path: { id }, query: { second: how.second, anonymous: how.anonymous } },
    }),
  );

/** A report on the desk, and getting the next ones ready. */
export function useMarkSheet(id: MaybeRefOrGetter<string>, how: MaybeRefOrGetter<How>) {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: computed(() => sheetKey(toValue(id), toValue(how))),
    queryFn: () => askSheet(toValue(id), toValue(how)),
    staleTime: 20_000,
    refetchOnMount: 'always',
  });
  const ready = (next: string) =>
    client.prefetchQuery({
      queryKey: sheetKey(next, toValue(how)),
      queryFn: () => askSheet(next, toValue(how)),
      staleTime: 20_000,
    });
  return { query, ready };
}

export const award = (id: string, second: boolean, awards: NewAward[]) =>
  answer(api.POST('/notebooks/{id}/awards', { params: { path: { id } }, body: { second, awards } }));

export function useBank(where: Where, criterion: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => ['bank', where.practical, toValue(criterion)]),
    queryFn: async () =>
      (
        await answer(
          api.GET('/classes/{class}/practicals/{practical}/marking/comments/{criterion}', {
            params: { path: { ...where, criterion: toValue(criterion) } },
          }),
        )
      ).comments,
    enabled: computed(() => toValue(criterion) !== ''),
    refetchOnMount: 'always', // it grows with every comment
    placeholderData: (before) => before,
  });
}

/** What changes the marks of a class; afterwards everything about them is asked anew. */
export function useMarkingChange(where: Where) {
  const client = useQueryClient();
  const path = where;
  async function anew<T>(what: Promise<T>): Promise<T> {
    try {
      return await what;
    } finally {
      await Promise.all(
        [deskKey(where), ['mark-sheet'], ['results'], ['differences'], ['report']].map((queryKey) =>
          client.invalidateQueries({ queryKey }),
        ),
      );
    }
  }
  return {
    together: (criterion: string, notebooks: string[]) =>
      anew(
        answer(
          api.POST('/classes/{class}/practicals/{practical}/marking/accepted', {
            params: { path },
            body: { criterion, notebooks },
          }),
        ),
      ),
    release: (notebooks: string[]) =>
      anew(
        answer(
          api.POST('/classes/{class}/practicals/{practical}/marking/released', {
            params: { path },
            body: { notebooks },
          }),
        ),
      ),
    tryScheme: async (scheme: Scheme) =>
      (
        await answer(
          api.POST('/classes/{class}/practicals/{practical}/marking/scheme', { params: { path }, body: { scheme } }),
        )
      ).reports,
    setScheme: (scheme: Scheme, revision: number) =>
      anew(
        answer(
          api.PUT('/classes/{class}/practicals/{practical}/marking/scheme', {
            params: { path },
            body: { scheme, revision },
          }),
        ),
      ),
    answerRequest: (id: string, request: number, text: string) =>
      anew(
        answer(
          api.POST('/notebooks/{id}/requests/{request}', { params: { path: { id, request } }, body: { answer: text } }),
        ),
      ),
  };
}

export function useDifferences(where: Where, enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    queryKey: ['differences', where.class, where.practical],
    queryFn: async () =>
      (
        await answer(
          api.GET('/classes/{class}/practicals/{practical}/marking/differences', { params: { path: where } }),
        )
      ).differences,
    enabled: computed(() => toValue(enabled)),
    refetchOnMount: 'always',
  });
}

export function useResults(where: Where) {
  return useQuery({
    queryKey: ['results', where.class, where.practical],
    queryFn: () => answer(api.GET('/classes/{class}/practicals/{practical}/results', { params: { path: where } })),
    refetchOnMount: 'always',
  });
}

export function useMarkingLog(where: Where, enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    queryKey: ['results', where.class, where.practical, 'log'],
    queryFn: async () =>
      (await answer(api.GET('/classes/{class}/practicals/{practical}/marking/log', { params: { path: where } }))).lines,
    enabled: computed(() => toValue(enabled)),
  });
}

/** The marks of one's own report. */
export function useOwnMarks(id: MaybeRefOrGetter<string>) {
  const client = useQueryClient();
  const key = computed(() => keys.ownMarks(toValue(id)));
  const query = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/notebooks/{id}/marks', { params: { path: { id: toValue(id) } } })),
    refetchOnMount: 'always',
  });
  const askAgain = async (criterion: string, reason: string) => {
    await answer(
      api.POST('/notebooks/{id}/requests', { params: { path: { id: toValue(id) } }, body: { criterion, reason } }),
    );
    await client.invalidateQueries({ queryKey: key.value });
  };
  return { query, askAgain };
}

export const useTerm = (classId: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: computed(() => ['term', toValue(classId)]),
    queryFn: () => answer(api.GET('/classes/{class}/marks', { params: { path: { class: toValue(classId) } } })),
    refetchOnMount: 'always',
  });

export const addComment = (id: string, entry: string, text: string) =>
  answer(api.POST('/notebooks/{id}/comments', { params: { path: { id } }, body: { entry, text } }));
export const withdrawComment = (id: string, comment: number) =>
  answer(api.DELETE('/notebooks/{id}/comments/{comment}', { params: { path: { id, comment } } }));
