// What is half typed or half done stays on this device, under the person it belongs
// to, until it is finished: through another view, a reload, the phone's Back.
import { ref, watch, type Ref } from 'vue';
import { mine } from '@/device/owner';
import { places, readValue, remove, write } from '@/device/storage';

/** A value that is kept while it differs from what it begins with. */
export function useDraft<T>(key: string, initial: T): Ref<T> {
  const place = mine('draft') + key;
  const blank = JSON.stringify(initial);
  const value = ref(readValue<T>(place) ?? initial) as Ref<T>;
  watch(
    value,
    (now) => {
      if (JSON.stringify(now) === blank) remove(place);
      else write(place, now);
    },
    { deep: true, flush: 'sync' },
  );
  return value;
}

/** Whether a draft still stands: another window may have finished it. */
export const draftStands = (key: string): boolean => readValue(mine('draft') + key) !== undefined;

/** Forgets a draft and its parts (key.part): what it was of is done. */
export function dropDrafts(key: string) {
  const place = mine('draft') + key;
  places(place)
    .filter((p) => p === place || p.startsWith(place + '.'))
    .forEach(remove);
}
