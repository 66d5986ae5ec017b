// Hears of what others write in the same notebook, and fetches it.
import { useQueryClient } from '@tanstack/vue-query';
import { onScopeDispose } from 'vue';
import type { Notebook } from '@/api/client';
import { keys } from '@/api/queries';

const settle = 40; // ms; one's own entry is acknowledged within that

export function useEvents(id: string) {
  const client = useQueryClient();
  let timer = 0;
  let opened = false;
  const source = new EventSource(`/api/notebooks/${id}/events`);
  const fetchNew = () => void client.invalidateQueries({ queryKey: keys.notebook(id) });
  source.addEventListener('change', (e) => {
    const { entries } = JSON.parse(e.data as string) as { entries: number };
    clearTimeout(timer);
    timer = window.setTimeout(() => {
      const known = client.getQueryData<Notebook>(keys.notebook(id))?.sheet.entries ?? 0;
      if (entries > known) fetchNew();
    }, settle);
  });
  source.onopen = () => {
    if (opened) fetchNew(); // the connection was away: something may have been missed
    opened = true;
  };
  onScopeDispose(() => {
    clearTimeout(timer);
    source.close();
  });
}
