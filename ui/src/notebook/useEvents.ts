// Hears of what others write in the same notebook, and fetches it.
import { useQueryClient } from '@tanstack/vue-query';
import { onScopeDispose, ref, watch } from 'vue';
import type { Notebook } from '@/api/client';
import { keys } from '@/api/keys';
import { useStream } from '@/api/stream';
import { idThere, isBegunHere } from '@/notebook/begun';
import { useOutbox } from '@/notebook/outbox';

const settle = 40; // ms; one's own entry is acknowledged within that

type Change = { entries: number; around?: boolean };

export function useEvents(id: string) {
  const client = useQueryClient();
  let timer = 0;
  let opened = false;
  let beside = false; // something around the entries changed: a hand, the end of the lesson
  const fetchNew = () => void client.invalidateQueries({ queryKey: keys.notebook(id) });

  function hear({ entries, around }: Change) {
    beside ||= !!around;
    clearTimeout(timer);
    timer = window.setTimeout(() => {
      const known = client.getQueryData<Notebook>(keys.notebook(id))?.sheet.entries ?? 0;
      if (entries > known || beside) fetchNew();
      if (beside) void client.invalidateQueries({ queryKey: keys.ownMarks(id) }); // marks, and what was answered
      beside = false;
    }, settle);
  }

  // One that was begun here is not told of until the server has it.
  const path = () => (isBegunHere(id) ? undefined : `/notebooks/${idThere(id)}/events`);
  const there = ref(path());
  const outbox = useOutbox();
  watch(
    () => outbox.pending,
    () => (there.value = path()),
  );
  useStream<Change>(there, 'change', hear, () => {
    if (opened) fetchNew(); // the connection was away: something may have been missed
    opened = true;
  });
  onScopeDispose(() => clearTimeout(timer));
}
