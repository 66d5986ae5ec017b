/** Does something when nothing else is to be done; not every browser can be asked for that. */
export function whenIdle(work: () => void, atMost = 5_000) {
  if (typeof requestIdleCallback === 'function') requestIdleCallback(work, { timeout: atMost });
  else setTimeout(work, 200);
}
