// Reports that are to be handed in as soon as the server can be reached: nothing is
// handed in until it has them.
import { useQueryClient } from '@tanstack/vue-query';
import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { ref, watch } from 'vue';
import { Offline } from '@/api/client';
import { keys } from '@/api/keys';
import { handIn } from '@/api/reports';
import { mine } from '@/device/owner';
import { readValue, remove, write } from '@/device/storage';
import { useOutbox } from '@/notebook/outbox';
import { useSession } from '@/session/session';
import { laterHere, makeSender } from '@/shared/sender';

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
  const without = (notebook: string) => asked.value.filter((a) => a.notebook !== notebook);

  /** Hands in, at once or as soon as everything that was typed is sent. */
  async function ask(notebook: string, entries: number) {
    set([...without(notebook), { notebook, entries }]);
    await sender.send();
  }

  /** The first that nothing stands in the way of. */
  const next = () => asked.value.find((a) => !a.why && !outbox.waitingFor(a.notebook).length);

  const sender = makeSender<Asked, unknown>({
    who: () => session.id,
    next,
    give: ({ notebook, entries }) => handIn(notebook, entries),
    took({ notebook }) {
      set(without(notebook));
      changed(notebook);
    },
    failed({ notebook, entries }, e) {
      if (e instanceof Offline) return 'later';
      set([...without(notebook), { notebook, entries, why: e instanceof Error ? e.message : String(e) }]);
      changed(notebook);
      return 'next';
    },
    later: laterHere,
    random: Math.random,
  });

  const changed = (notebook: string) =>
    [keys.notebook(notebook), keys.report(notebook), keys.shelf].forEach(
      (queryKey) => void client.invalidateQueries({ queryKey }),
    );

  watch(
    () => session.id,
    () => {
      asked.value = readValue<Asked[]>(place()) ?? [];
      sender.reset();
      void sender.send();
    },
    { immediate: true },
  );
  useEventListener(window, 'online', () => void sender.send());
  watch(
    () => outbox.all.length,
    (n) => n === 0 && void sender.send(),
  );
  return { asked, ask, drop: (notebook: string) => set(without(notebook)) };
});
