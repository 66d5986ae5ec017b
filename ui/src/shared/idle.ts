import { ref } from 'vue';

/** Does something when nothing else is to be done; not every browser can be asked for that. */
export function whenIdle(work: () => void, atMost = 5_000) {
  if (typeof requestIdleCallback === 'function') requestIdleCallback(work, { timeout: atMost });
  else setTimeout(work, 200);
}

/** Does something once what is there has been painted: what measures the page makes it be laid out before. */
export function afterPaint(work: () => void) {
  requestAnimationFrame(() => setTimeout(work));
}

/** Whether a bench has been painted since the page came: what is below its pad waits for that. */
export const painted = ref(false);
