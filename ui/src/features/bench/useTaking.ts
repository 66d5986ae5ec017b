// What a joined probe shows is taken by a touch, or by itself once it is steady behind the
// volume that was run to.
import { computed, nextTick, ref, watch, type Ref } from 'vue';
import type { Notebook } from '@/api/client';
import { useProbe } from '@/notebook/useProbe';

export function useTaking(notebook: Ref<Notebook>, take: () => void) {
  const { probe: used } = notebook.value.sheet;
  const probe = used && notebook.value.mayWrite ? useProbe(notebook) : undefined;
  const live = computed(() => {
    const now = probe?.live.value;
    return now?.text ? { text: now.text, steady: !!now.steady, gone: !!now.gone } : undefined;
  });
  const waits = ref(false); // for the value of the reading that was run to
  let moved = false; // since then: before, it is the value of the volume before
  function ran(burette: string) {
    waits.value = burette !== '';
    moved = false;
    probe?.ran(burette);
  }
  /** The first point of a run is taken where nothing has run yet. */
  const first = () => {
    const { points, next } = notebook.value.sheet;
    return points?.at(-1)?.trial !== next.entry?.trial;
  };
  watch(live, (now) => {
    if (!now || !waits.value || !probe?.automatic.value || !notebook.value.sheet.next.entry?.point) return;
    if (!now.steady) moved = true;
    if (!now.steady || !(moved || first())) return;
    waits.value = false;
    void nextTick(take); // once the pad has the value that is steady
  });
  return { probe, live, ran };
}
