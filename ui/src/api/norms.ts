// What a school sees differently from common practice: asked, and said.
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { answer, api } from '@/api/client';

const key = (classId?: string) => ['norms', classId ?? ''] as const;

/** The norms of a class, or of the whole installation, by groups. */
export function useNorms(classId: () => string | undefined) {
  return useQuery({
    queryKey: computed(() => key(classId())),
    queryFn: async () => {
      const id = classId();
      const got = await answer(
        id ? api.GET('/classes/{class}/norms', { params: { path: { class: id } } }) : api.GET('/norms'),
      );
      return got.groups;
    },
  });
}

export function useSaveNorms() {
  const client = useQueryClient();
  return async (classId: string | undefined, norms: Record<string, string>) => {
    const body = { norms };
    const got = await answer(
      classId
        ? api.PUT('/classes/{class}/norms', { params: { path: { class: classId } }, body })
        : api.PUT('/norms', { body }),
    );
    client.setQueryData(key(classId), got.groups);
  };
}
