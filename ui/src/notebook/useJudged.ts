// A notebook as it stands on this device: what the server said, with what it
// does not have yet judged here by the same core.
import { computed, shallowRef, watch, type Ref } from 'vue';
import type { Notebook, Schemas } from '@/api/client';
import { useOutbox } from '@/notebook/outbox';
import { judge } from '@/notebook/judge';

const patience = 120; // ms

export function useJudged(notebook: Ref<Notebook | undefined>) {
  const outbox = useOutbox();
  const judged = shallowRef<{ state: string; sheet: Schemas['Sheet'] }>();
  const waiting = computed(() => (notebook.value ? outbox.waitingFor(notebook.value.id) : []));
  // Names a state: an answer about another one comes too late.
  const state = computed(() => `${notebook.value?.sheet.entries} ${waiting.value.map((e) => e.id).join(' ')}`);

  watch(
    state,
    async (about) => {
      if (!notebook.value || waiting.value.length === 0) return;
      // A server that answers at once says the same; it is not overtaken.
      if (outbox.trouble === '') await new Promise((r) => setTimeout(r, patience));
      if (state.value !== about) return;
      const answer = await judge(notebook.value, waiting.value);
      if (answer?.sheet && state.value === about) judged.value = { state: about, sheet: answer.sheet };
    },
    { immediate: true },
  );

  return computed(() => {
    if (!notebook.value) return undefined;
    if (waiting.value.length === 0 || judged.value?.state !== state.value) return notebook.value;
    return { ...notebook.value, sheet: judged.value.sheet };
  });
}
