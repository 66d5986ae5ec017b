// Which trial the pad shows, and what is typed there: of several that are open the one that is
// read here. What is typed belongs to what was shown at its first key.
import { computed, ref, watch, type Ref } from 'vue';
import type { Notebook } from '@/api/client';
import { useDraft } from '@/device/drafts';
import { openOf, shownOf, type Shown } from '@/features/bench/pad/target';
import type { TrialType } from '@/notebook/useBench';

export function useShown(notebook: Ref<Notebook>, type: Ref<TrialType>) {
  const chosen = ref('');
  const opened = computed(() => openOf(notebook.value.sheet.next));
  const expect = computed(() => shownOf(notebook.value.sheet.next, chosen.value));
  const nameOf = (id?: string) => notebook.value.sheet.trials.find((t) => t.id === id)?.name ?? '';
  // The trial that was opened here is the one that is read here.
  watch(
    () => opened.value.map((e) => e.trial).join(),
    (_, was) => {
      const still = opened.value.some((e) => e.trial === chosen.value);
      if (!still) chosen.value = was && opened.value.some((e) => e.trial === was) ? was : '';
      if (opened.value.length === 1) chosen.value = opened.value[0]!.trial!;
    },
    { immediate: true },
  );
  watch(
    () => expect.value?.opens,
    (opens) => opens && (type.value = opens),
    { immediate: true },
  );
  const shown = (): Shown => ({
    trial: expect.value?.trial,
    mark: expect.value?.mark ?? 'start',
    opens: type.value,
  });
  return { chosen, opened, expect, nameOf, shown };
}

export type ShownHere = ReturnType<typeof useShown>;

type First = [Shown, boolean];

/**
 * What was shown when the first key of what stands in the fields was pressed, and whether it was settled;
 * kept with what is half typed, over a reload too. What came back into the field by itself has none: it
 * belongs to what is shown at the next key.
 */
export function useFirstKey(notebook: string, typed: () => string, now: () => First) {
  const begun = useDraft<First | []>('first.' + notebook, []);
  watch(typed, (after) => after || (begun.value = []), { flush: 'sync' });
  return {
    // Before each key: what goes into an empty field is the first, whatever was pressed in it before.
    // Enter is no key of what is typed.
    keyed: (e?: Event) => {
      if ((e as InputEvent | undefined)?.inputType === 'insertLineBreak') return;
      if (!typed() || !begun.value.length) begun.value = now();
    },
    firstKey: (): First => (begun.value.length ? begun.value : now()),
  };
}
