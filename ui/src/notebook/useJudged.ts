// A notebook as it stands on this device: what the server said, with what it
// does not have yet judged here by the same core.
import { computed, shallowRef, watch, type Ref } from 'vue';
import type { Notebook } from '@/api/client';
import { coreFailed, coreReady, judge } from '@/notebook/judge';
import { useOutbox } from '@/notebook/outbox';

const patience = 40; // ms; a server that answers at once is not overtaken

export function useJudged(notebook: Ref<Notebook | undefined>, brief: () => boolean) {
  const outbox = useOutbox();
  const judged = shallowRef<{ ids: Set<string>; sheet: Notebook['sheet'] }>();
  const waits = computed(() => (notebook.value ? outbox.beyond(notebook.value) : []));
  // Names what is to be judged: an answer about something else comes too late.
  const state = computed(() => {
    const n = notebook.value;
    const { words, units } = n?.sheet.style ?? {};
    return [n?.id, n?.sheet.entries, words, units, brief(), ...waits.value.map((e) => e.id)].join(' ');
  });

  watch(
    [state, coreReady],
    async ([about]) => {
      if (waits.value.length === 0) judged.value = undefined;
      if (!notebook.value || waits.value.length === 0) return;
      if (outbox.trouble === '') await new Promise((r) => setTimeout(r, patience));
      if (state.value !== about || waits.value.length === 0) return;
      const answer = await judge(notebook.value, waits.value, brief());
      if (state.value !== about) return;
      if (answer?.sheet) judged.value = { ids: new Set(waits.value.map((e) => e.id)), sheet: answer.sheet };
      else if (answer?.fault) outbox.refuse(notebook.value.id, waits.value[answer.at], answer.fault);
    },
    { immediate: true },
  );

  // While something waits, what was judged here last is shown: it is never taken back.
  const shown = computed(() => {
    const n = notebook.value;
    return n && waits.value.length && judged.value ? { ...n, sheet: judged.value.sheet } : n;
  });
  /** Whether what is shown includes everything that was typed on this device. */
  const whole = computed(() => waits.value.every((e) => judged.value?.ids.has(e.id)));
  /** Whether that will not come by itself: there is no core here, and no server. */
  const stuck = computed(() => !whole.value && coreFailed.value && outbox.trouble !== '');
  return { shown, whole, stuck };
}
