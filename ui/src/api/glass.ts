// The glassware of a class, or of the whole installation: asked, and kept.
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { answer, api, type Schemas } from '@/api/client';

export type Piece = Schemas['Piece'];
const key = (classId?: string) => ['glass', classId ?? ''] as const;

export function useGlass(classId: () => string | undefined) {
  return useQuery({
    queryKey: computed(() => key(classId())),
    queryFn: () => {
      const id = classId();
      return answer(id ? api.GET('/classes/{class}/glass', { params: { path: { class: id } } }) : api.GET('/glass'));
    },
  });
}

export function useKeepGlass() {
  const client = useQueryClient();
  return async (classId: string | undefined, own: Piece[]) => {
    const body = { own };
    const got = await answer(
      classId
        ? api.PUT('/classes/{class}/glass', { params: { path: { class: classId } }, body })
        : api.PUT('/glass', { body }),
    );
    client.setQueryData(key(classId), got);
  };
}
