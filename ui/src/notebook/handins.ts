// Reports that are to be handed in as soon as the server can be reached: nothing is
// handed in until it has them.
import { useQueryClient } from '@tanstack/vue-query';
import { useEventListener, useIntervalFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { ref, watch } from 'vue';
import { Offline } from '@/api/client';
import { keys } from '@/api/queries';
import { handIn } from '@/api/reports';
import { mine } from '@/device/owner';
import { readValue, remove, write } from '@/device/storage';
import { useOutbox } from '@/notebook/outbox';
import { useSession } from '@/session/session';

/** entries: how many the page showed; nothing else is handed in. */
type Asked = { notebook: string; entries: number; why?: string };

export const useHandIns = defineStore('hand-ins', () => {
  const session = useSession();
  const outbox = useOutbox();
  const client = useQueryClient();
  /** What waits; with why, where the server refused it. */
  const asked = ref<Asked[]>([]);
  const place = () => mine('setting') + 'hand-ins';
  function set(next: Asked[]) {
    asked.value = next;
    if (next.length) write(place(), next);
    else remove(place());
  }
  watch(
    () => session.id,
    () => (asked.value = readValue<Asked[]>(place()) ?? []),
    { immediate: true },
  );
  const without = (notebook: string) => asked.value.filter((a) => a.notebook !== notebook);

  /** Hands in, at once or as soon as everything that was typed is sent. */
  async function ask(notebook: string, entries: number) {
    set([...without(notebook), { notebook, entries }]);
    await attempt();
  }

  let busy = false;
  async function attempt() {
    if (busy) return;
    busy = true;
    try {
      for (const { notebook, entries, why } of asked.value) {
        if (why || outbox.waitingFor(notebook).length) continue;
        try {
          await handIn(notebook, entries);
          set(without(notebook));
        } catch (e) {
          if (e instanceof Offline) return;
          set([...without(notebook), { notebook, entries, why: e instanceof Error ? e.message : String(e) }]);
        }
        await Promise.all([
          client.invalidateQueries({ queryKey: keys.notebook(notebook) }),
          client.invalidateQueries({ queryKey: keys.report(notebook) }),
          client.invalidateQueries({ queryKey: keys.shelf }),
        ]);
      }
    } finally {
      busy = false;
    }
  }
  useEventListener(window, 'online', () => void attempt());
  watch(
    () => outbox.all.length,
    (n) => n === 0 && void attempt(),
  );
  useIntervalFn(() => void attempt(), 20_000);
  return { asked, ask, drop: (notebook: string) => set(without(notebook)) };
});
