// A waiting time that is kept to its end: leak, end colour, stirring. It runs on by
// the clock through another view, a reload, a device that dozed.
import { useIntervalFn } from '@vueuse/core';
import { computed, ref } from 'vue';
import { draftStands, useDraft } from '@/device/drafts';

export function useCountdown<K extends string>(key: string, ended: (kind: K, seconds: number, of: string) => void) {
  type Running = { kind: K | ''; seconds: number; begun: number; of?: string };
  const running = useDraft<Running>(key, { kind: '', seconds: 0, begun: 0 });
  const now = ref(Date.now());
  const kind = computed(() => running.value.kind);
  const seconds = computed(() => running.value.seconds);
  const left = computed(() => Math.max(0, seconds.value - (now.value - running.value.begun) / 1000));
  const { pause, resume } = useIntervalFn(tick, 200, { immediate: false });

  function tick() {
    now.value = Date.now();
    if (kind.value === '' || left.value > 0) return;
    const { kind: what, seconds: time, of = '' } = running.value;
    const elsewhere = !draftStands(key); // it has ended in another window
    stop();
    if (elsewhere) return;
    navigator.vibrate?.(250);
    ended(what as K, time, of);
  }

  /** Begins it; of a trial where it is one's. */
  function start(what: K, time: number, of = '') {
    now.value = Date.now();
    running.value = { kind: what, seconds: time, begun: now.value, of };
    resume();
  }

  function stop() {
    running.value = { kind: '', seconds: 0, begun: 0 };
    pause();
  }

  if (kind.value !== '') resume();
  return { kind, seconds, left, start, stop };
}
