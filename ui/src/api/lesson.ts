// A lesson while it is going on: the board and what changes on it, hands, the clock.
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { ref } from 'vue';
import { answer, api, type Schemas } from '@/api/client';
import { keys } from '@/api/keys';
import { useStream } from '@/api/stream';

export type Board = Schemas['Board'];
export type BoardRow = Schemas['BoardRow'];
/** What the stream tells. */
type News = { now: string; rows: BoardRow[]; order?: string[]; whole?: Board };
type Where = { class: string; practical: string };

/** The board, kept as the server tells of it. */
export function useBoard(where: Where) {
  const client = useQueryClient();
  const key = ['board', where.class, where.practical];
  const query = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/classes/{class}/practicals/{practical}/board', { params: { path: where } })),
    refetchOnMount: 'always',
  });
  /** How far this device's clock is behind the server's, ms. */
  const behind = ref(0);
  const path = `/classes/${where.class}/practicals/${where.practical}/board/events`;
  const { live } = useStream<News>(path, 'news', (news) => {
    behind.value = Date.parse(news.now) - Date.now();
    client.setQueryData<Board>(key, (before) => {
      if (news.whole) return news.whole;
      if (!before) return before;
      const rows = new Map(news.rows.map((r) => [r.person, r]));
      const benches = before.benches.map((b) => rows.get(b.person) ?? b);
      const place = new Map(news.order?.map((person, i) => [person, i]));
      if (news.order) benches.sort((a, b) => place.get(a.person)! - place.get(b.person)!);
      return { ...before, now: news.now, benches };
    });
  });
  return { query, live, behind };
}

export function usePlot(where: Where) {
  return useQuery({
    queryKey: ['answers', where.class, where.practical],
    queryFn: () => answer(api.GET('/classes/{class}/practicals/{practical}/plot', { params: { path: where } })),
    refetchOnMount: 'always',
    refetchInterval: 30_000,
  });
}

export const endLesson = async (where: Where, ends?: string) =>
  void (await answer(
    api.PUT('/classes/{class}/practicals/{practical}/lesson', { params: { path: where }, body: { ends } }),
  ));

export const takeHand = async (notebook: string, cleared: boolean) =>
  (await answer(api.POST('/notebooks/{id}/hand', { params: { path: { id: notebook } }, body: { cleared } }))).hand;

/** One's own hand. */
export function useHand(notebook: () => string) {
  const client = useQueryClient();
  return async (up: boolean) => {
    const path = { id: notebook() };
    const { hand } = await answer(api.PUT('/notebooks/{id}/hand', { params: { path }, body: { up } }));
    client.setQueryData<Schemas['Notebook']>(keys.notebook(path.id), (n) => n && { ...n, hand });
  };
}
