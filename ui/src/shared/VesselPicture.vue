<script setup lang="ts">
// A vessel on the way from the sample to the flask, as an outline.
defineProps<{ kind: string }>();

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
  <svg viewBox="0 0 44 56" class="h-14" aria-hidden="true">
    <path
      :d="shapes[kind] ?? shapes.sample"
      fill="var(--liquid)"
      stroke="var(--ink)"
      stroke-width="1.6"
      stroke-linejoin="round"
    />
  </svg>
</template>
