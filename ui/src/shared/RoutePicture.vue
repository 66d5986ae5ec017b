<script setup lang="ts">
// From the sample to the flask, as a row of vessels: the same picture everywhere.
import type { Schemas } from '@/api/client';

defineProps<{ route: Schemas['Vessel'][] }>();

// Outlines in a box of 44 by 56.
const shapes: Record<string, string> = {
  weigh: 'M6 40 h32 l-4 10 h-24 Z M22 40 v-8 M8 32 h28',
  tablets: 'M8 34 a6 6 0 0 1 12 0 v6 h-12 Z M24 34 a6 6 0 0 1 12 0 v6 h-12 Z M6 46 h32',
  pipette: 'M22 4 v14 M17 18 h10 v16 h-10 Z M22 34 v18',
  aliquot: 'M22 4 v14 M17 18 h10 v16 h-10 Z M22 34 v18',
  'make-up': 'M18 4 h8 v18 a15 15 0 1 1 -8 0 Z M16 14 h12',
  excess: 'M12 8 h20 v42 h-20 Z M12 20 h20',
  sample: 'M12 12 h20 v38 h-20 Z M16 12 v-6 h12 v6',
  flask: 'M17 4 h10 v16 l12 30 h-34 l12 -30 Z M11 36 h22',
};
</script>

<template>
  <ol class="flex flex-wrap items-stretch gap-y-3">
    <li v-for="(v, i) in route" :key="i" class="flex items-center">
      <span v-if="i" class="px-1 text-center text-2xl text-quiet" aria-hidden="true">→</span>
      <span class="grid max-w-44 min-w-24 justify-items-center px-1 text-center text-sm leading-tight">
        <svg viewBox="0 0 44 56" class="h-14" aria-hidden="true">
          <path
            :d="shapes[v.kind] ?? shapes.sample"
            fill="var(--liquid)"
            stroke="var(--ink)"
            stroke-width="1.6"
            stroke-linejoin="round"
          />
        </svg>
        <span class="font-semibold">{{ v.name }}</span>
        <span v-if="v.amount" class="figure">{{ v.amount }}</span>
        <span v-if="v.factor" class="figure text-accent">× {{ v.factor }}</span>
        <slot :place="i" />
      </span>
    </li>
  </ol>
</template>
