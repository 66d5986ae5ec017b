/** Does something when nothing else is to be done; not every browser can be asked for that. */
export function whenIdle(work: () => void, atMost = 5_000) {
  if (typeof requestIdleCallback === 'function') requestIdleCallback(work, { timeout: atMost });
  else setTimeout(work, 200);
}

/** Does something once what is there has been painted: what measures the page makes it be laid out before. */
export function afterPaint(work: () => void) {
  requestAnimationFrame(() => setTimeout(work));
}
