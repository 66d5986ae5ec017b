<script setup lang="ts">
// The expected titre on the burette, to scale, with its best part marked.
import { computed } from 'vue';

const props = defineProps<{ capacity: number; titre: number; best: boolean; part: number[] }>();
const height = 360;
const y = (v: number) => 14 + ((height - 40) * Math.min(v, props.capacity * 1.03)) / props.capacity;
const marks = computed(() => Array.from({ length: 11 }, (_, i) => (props.capacity * i) / 10));
</script>

<template>
  <svg :viewBox="`0 0 120 ${height}`" class="mx-auto h-80" aria-hidden="true">
    <rect
      x="86"
      :y="y(part[0]!)"
      width="6"
      :height="y(part[1]!) - y(part[0]!)"
      fill="none"
      stroke="var(--agree)"
      stroke-dasharray="3 2"
    />
    <rect x="40" :y="y(0)" width="40" :height="Math.max(0, y(titre) - y(0))" fill="var(--liquid)" />
    <path :d="`M40 6 V${height - 22} l16 12 v8 M80 6 V${height - 22} l-16 12 v8`" fill="none" stroke="var(--quiet)" />
    <g v-for="m in marks" :key="m">
      <line x1="40" x2="54" :y1="y(m)" :y2="y(m)" stroke="var(--ink)" />
      <text x="34" :y="y(m) + 4" text-anchor="end" font-size="13" fill="var(--ink)" class="figure">{{ m }}</text>
    </g>
    <line
      v-if="titre > 0"
      x1="38"
      x2="104"
      :y1="y(titre)"
      :y2="y(titre)"
      :stroke="best ? 'var(--agree)' : 'var(--alarm)'"
      stroke-width="3"
    />
  </svg>
</template>
