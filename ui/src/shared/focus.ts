// Where typing goes. What has the focus by then was chosen by a person: it keeps it.
import { onMounted } from 'vue';
import { afterPaint } from '@/shared/idle';

const writes = 'input, textarea, select';

/** A dialog begins at its field, unless one already types into another of its fields. */
export function beginAt(field: () => HTMLElement | null | undefined) {
  onMounted(() =>
    setTimeout(() => {
      if (!document.activeElement?.matches(`[role=dialog] :is(${writes})`)) field()?.focus();
    }),
  );
}

/** A pad has the focus once it is painted, unless a field has it by then. */
export function focusAfterPaint(focus: () => void) {
  onMounted(() => afterPaint(() => document.activeElement?.matches(writes) || focus()));
}

/** What is pressed here was meant for no part of the page. */
export const nowhere = (target: HTMLElement) => target === document.body || target.id === 'content';

/**
 * The focus never falls to the page: what had it and was taken away, or cannot be used any more, hands
 * it to the field of readings, where there is one, else to the part of the page that held it, else to
 * the content. Whoever points at nothing has put it away.
 */
export function keepFocus(): () => void {
  let last: HTMLElement | undefined;
  let around: HTMLElement[] = [];
  const got = (e: FocusEvent) => {
    if (!(e.target instanceof HTMLElement) || nowhere(e.target)) return;
    last = e.target;
    around = [];
    for (let at = last.parentElement; at && at !== document.body; at = at.parentElement) around.push(at);
  };
  const pointed = (e: Event) => {
    if (e.target instanceof HTMLElement && !e.target.closest('a, button, input, textarea, select, summary, [tabindex]'))
      last = undefined;
  };
  const seen = new MutationObserver(() => {
    if (!last || document.activeElement !== document.body) return;
    if (last.isConnected) return last.focus({ preventScroll: true }); // it can be used again
    const field = document.getElementById('reading');
    const held = around.find((at) => at.isConnected);
    const other = held?.querySelector<HTMLElement>('button:not(:disabled), a[href], input:not(:disabled), summary');
    (field ?? other ?? document.getElementById('content'))?.focus({ preventScroll: true });
  });
  document.addEventListener('focusin', got);
  document.addEventListener('pointerdown', pointed);
  seen.observe(document.body, { childList: true, subtree: true, attributes: true, attributeFilter: ['disabled'] });
  return () => {
    document.removeEventListener('focusin', got);
    document.removeEventListener('pointerdown', pointed);
    seen.disconnect();
  };
}
