// Takes the last thing back that this person wrote: in ink, as a correction.
import { computed, type Ref } from 'vue';
import type { Entry, Notebook } from '@/api/client';
import { useOutbox } from '@/notebook/outbox';
import type { Bench } from '@/notebook/useBench';
import { useSession } from '@/session/session';
import { say } from '@/words';

const lookBack = 200; // entries

export function useUndo(notebook: Ref<Notebook>, bench: Bench) {
  const outbox = useOutbox();
  const session = useSession();

  /** What was written in one go, last; corrections that withdrew something are passed over. */
  const last = computed<Entry[]>(() => {
    const all = [...(notebook.value.entries ?? []).slice(-lookBack), ...outbox.beyond(notebook.value)];
    const gone = new Set(all.flatMap((e) => (e.correction?.withdraw ? [e.correction.replaces] : [])));
    const standing = all
      .filter((e) => e.author === session.id && !e.correction?.withdraw && !gone.has(e.id))
      .sort((a, b) => a.clock - b.clock);
    const end = standing.at(-1);
    return end ? standing.filter((e) => e.at === end.at && e.device === end.device) : [];
  });

  const text = computed(() => {
    const e = last.value.at(-1);
    if (!e) return '';
    return e.reading?.text ?? e.correction?.value ?? e.observation?.text ?? say(`kinds.${e.kind}`);
  });

  const undo = () => bench.withdrawAll(last.value.map((e) => e.id).reverse(), say('reasons.undone'));
  return { text, undo };
}
