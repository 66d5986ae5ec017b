// What the server tells of by itself, heard for as long as the component lives.
import { useEventSource } from '@vueuse/core';
import { computed, toRef, watch, type MaybeRefOrGetter } from 'vue';
import { ask } from '@/api/client';
import { pauseAfter } from '@/shared/sender';

/**
 * Hears one kind of news on a path of the API; where the path is undefined, nothing yet. Where
 * the server refuses, it is asked again after growing pauses; opened tells that it is heard
 * (again): what was told meanwhile was missed.
 */
export function useStream<News>(
  path: MaybeRefOrGetter<string | undefined>,
  kind: string,
  hear: (news: News) => void,
  opened: () => void = () => undefined,
) {
  let failures = 0;
  const at = toRef(path);
  const url = computed(() => at.value && `/api${at.value}?person=${ask.as}`);
  const { data, status } = useEventSource(url, [kind], {
    serializer: { read: (text) => (text ? (JSON.parse(text) as News) : undefined) },
    // Read anew before each attempt.
    autoReconnect: {
      get delay() {
        return pauseAfter(++failures, Math.random());
      },
    },
  });
  // At once: of two in a row none is passed over.
  watch(data, (news) => news && hear(news), { flush: 'sync' });
  watch(
    status,
    (now) => {
      if (now !== 'OPEN') return;
      failures = 0;
      opened();
    },
    { flush: 'sync' },
  );
  /** Whether news arrives. */
  return { live: computed(() => status.value === 'OPEN') };
}
