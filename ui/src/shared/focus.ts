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
