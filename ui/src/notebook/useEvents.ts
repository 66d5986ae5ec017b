// Hears of what others write in the same notebook, and fetches it.
import { useQueryClient } from '@tanstack/vue-query';
import { onScopeDispose } from 'vue';
import { ask, type Notebook } from '@/api/client';
import { keys } from '@/api/queries';
import { isBegunHere } from '@/notebook/begun';
import { pauseAfter } from '@/notebook/queue';

const settle = 40; // ms; one's own entry is acknowledged within that

export function useEvents(id: string) {
  const client = useQueryClient();
  let source: EventSource | undefined;
  let timer = 0;
  let retry = 0;
  let failures = 0;
  let opened = false;
  let beside = false; // something around the entries changed: a hand, the end of the lesson
  const fetchNew = () => void client.invalidateQueries({ queryKey: keys.notebook(id) });

  function listen() {
    if (isBegunHere(id)) return again(); // the server does not have it yet
    source = new EventSource(`/api/notebooks/${id}/events?person=${ask.as}`);
    source.addEventListener('change', (e) => {
      const { entries, around } = JSON.parse(e.data as string) as { entries: number; around?: boolean };
      beside ||= !!around;
      clearTimeout(timer);
      timer = window.setTimeout(() => {
        const known = client.getQueryData<Notebook>(keys.notebook(id))?.sheet.entries ?? 0;
        if (entries > known || beside) fetchNew();
        if (beside) void client.invalidateQueries({ queryKey: keys.ownMarks(id) }); // marks, and what was answered
        beside = false;
      }, settle);
    });
    source.onopen = () => {
      failures = 0;
      if (opened) fetchNew(); // the connection was away: something may have been missed
      opened = true;
    };
    source.onerror = () => {
      if (source?.readyState === EventSource.CLOSED) again(); // refused: the browser does not try again
    };
  }

  function again() {
    source?.close();
    clearTimeout(retry);
    retry = window.setTimeout(listen, pauseAfter(++failures, Math.random()));
  }

  listen();
  onScopeDispose(() => {
    clearTimeout(timer);
    clearTimeout(retry);
    source?.close();
  });
}
