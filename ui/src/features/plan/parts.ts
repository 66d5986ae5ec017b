// One thing of the practical that is being written, read and written.
import { computed, inject, type WritableComputedRef } from 'vue';
import type { Practical } from '@/features/plan/draft';
import { editing } from '@/features/plan/fields';

export function useParts() {
  const { practical, fault } = inject(editing)!;
  function part<T>(get: (p: Practical) => T, set: (p: Practical, value: T) => Practical): WritableComputedRef<T> {
    return computed({ get: () => get(practical.value), set: (v) => (practical.value = set(practical.value, v)) });
  }
  return { practical, fault, part };
}

/** Usual choices, and the one that stands where it is another. */
export const withNow = (usual: string[], now?: string) => [...new Set([...usual, ...(now ? [now] : [])])];
