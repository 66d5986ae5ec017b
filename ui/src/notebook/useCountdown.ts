// A waiting time that is kept to its end: leak, end colour, stirring.
import { useIntervalFn } from '@vueuse/core';
import { computed, ref, shallowRef } from 'vue';

export function useCountdown<K extends string>(ended: (kind: K, seconds: number) => void) {
  const kind = shallowRef<K | ''>('');
  const seconds = ref(0);
  const begun = ref(0);
  const now = ref(0);
  // By the clock, not by ticks: a device that dozed still knows.
  const left = computed(() => Math.max(0, seconds.value - (now.value - begun.value) / 1000));
  const { pause, resume } = useIntervalFn(
    () => {
      now.value = Date.now();
      if (left.value > 0) return;
      const what = kind.value;
      stop();
      if (what === '') return;
      navigator.vibrate?.(250);
      ended(what, seconds.value);
    },
    200,
    { immediate: false },
  );

  function start(what: K, time: number) {
    kind.value = what;
    seconds.value = time;
    begun.value = now.value = Date.now();
    resume();
  }

  function stop() {
    kind.value = '';
    pause();
  }

  return { kind, seconds, left, start, stop };
}
