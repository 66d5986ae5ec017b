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
  let since = 0; // lines that had come then
  let last = '';
  async function ran(burette: string) {
    waits.value = false;
    last = burette;
    const came = (await probe?.ran(burette)) ?? 0; // what it showed before is of the reading before
    if (last !== burette) return; // it has run on meanwhile
    since = came;
    waits.value = burette !== '';
  }
  watch(live, (now) => {
    if (!now || !waits.value || !probe?.automatic.value || !notebook.value.sheet.next.entry?.point) return;
    const { total, fresh } = probe.live.value!;
    if (!now.steady || total - since < fresh) return;
    waits.value = false;
    void nextTick(take); // once the pad has the value that is steady
  });
  return { probe, live, ran };
}
