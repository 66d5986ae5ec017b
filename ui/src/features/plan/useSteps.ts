// What was changed of a value can be taken back, a step each: a vessel at once, what is typed after a pause.
import { useDebounceFn } from '@vueuse/core';
import { computed, shallowRef, watch, type Ref } from 'vue';

const most = 100;

/** Shape tells what is a step of its own at once. A value is exchanged, not written into. */
export function useSteps<T>(value: Ref<T>, shape: () => unknown) {
  const past = shallowRef<T[]>([]);
  const last = shallowRef(value.value); // what the next step is away from
  function note() {
    if (value.value === last.value) return;
    past.value = [...past.value.slice(1 - most), last.value];
    last.value = value.value;
  }
  watch(() => JSON.stringify(shape()), note);
  watch(value, useDebounceFn(note, 400));
  return {
    canUndo: computed(() => past.value.length > 0 || value.value !== last.value),
    undo() {
      note();
      const before = past.value.at(-1);
      if (before === undefined) return;
      past.value = past.value.slice(0, -1);
      value.value = last.value = before;
    },
    /** What stands there now is where one begins. */
    begin() {
      past.value = [];
      last.value = value.value;
    },
  };
}
