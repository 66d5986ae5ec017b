<script setup lang="ts">
// The burette in small: where each trial ran, to scale, 0 at the top.
import type { Schemas } from '@/api/client';

const props = defineProps<{ capacity: number; bands: Schemas['Band'][] }>();
const height = 120;
const at = (v: number | string) => 4 + (height - 8) * Math.min(1, Math.max(0, Number(v) / props.capacity));
const columns = 8;
</script>

<template>
  <svg :viewBox="`0 0 64 ${height}`" class="h-30 w-16" aria-hidden="true">
    <rect x="2" y="2" width="60" :height="height - 4" rx="4" fill="var(--well)" stroke="var(--hair)" />
    <line
      v-for="i in 9"
      :key="i"
      x1="2"
      :x2="i % 5 ? 7 : 12"
      :y1="at((capacity * i) / 10)"
      :y2="at((capacity * i) / 10)"
      stroke="var(--quiet)"
    />
    <rect
      v-for="(b, i) in bands.slice(-columns)"
      :key="'b' + i"
      :x="15 + i * 6"
      :y="at(Math.min(Number(b.from), Number(b.to)))"
      width="4"
      :height="Math.max(1, Math.abs(at(b.to) - at(b.from)))"
      :fill="b.state === 'counts' ? 'var(--agree)' : b.state === 'pending' ? 'var(--quiet)' : 'none'"
      :stroke="b.state === 'rough' ? 'var(--rough)' : b.state === 'aside' ? 'var(--quiet)' : 'none'"
      :stroke-dasharray="b.state === 'rough' ? '2 1.5' : b.state === 'aside' ? '1 2' : undefined"
    />
  </svg>
</template>
