<script setup lang="ts">
// Precision against accuracy: how far apart the titres of a student that count lie, over
// how far the answer is off.
import { computed } from 'vue';
import type { Schemas } from '@/api/client';
import { rounded } from '@/shared/rounded';
import { say } from '@/words';

const props = defineProps<{ points: Schemas['Scored'][]; names: Map<string, string>; spread: number }>();
const shown = computed(() => props.points.filter((p) => p.spread !== undefined));
const width = 520;
const height = 300;
const span = computed(() => Math.max(1, ...shown.value.map((p) => Math.abs(p.percent))) * 1.15);
const top = computed(() => Math.max(0.1, ...shown.value.map((p) => p.spread!)) * 1.2);
const x = (percent: number) => 50 + ((percent + span.value) / (2 * span.value)) * (width - 70);
const y = (spread: number) => height - 45 - (spread / top.value) * (height - 65);
const ticks = computed(() => {
  const step = [0.2, 0.5, 1, 2, 5, 10, 20, 50].find((s) => span.value / s <= 4) ?? 100;
  const n = Math.floor(span.value / step);
  return Array.from({ length: 2 * n + 1 }, (_, i) => (i - n) * step);
});
const signed = (v: number, places = 2) => (v > 0 ? '+' : '') + rounded(v, places);
const heights = computed(() => [0, top.value / 2.4, top.value / 1.2]);
</script>

<template>
  <svg
    v-if="shown.length"
    :viewBox="`0 0 ${width} ${height}`"
    class="w-full"
    role="img"
    :aria-label="say('results.scatter')"
  >
    <rect
      v-if="spread"
      :x="x(-2 * spread)"
      y="10"
      :width="Math.max(0, x(2 * spread) - x(-2 * spread))"
      :height="height - 55"
      class="fill-tint"
    />
    <line :x1="x(0)" :x2="x(0)" y1="10" :y2="height - 45" class="stroke-ink" stroke-width="1.5" />
    <line x1="50" :x2="width - 20" :y1="height - 45" :y2="height - 45" class="stroke-ink" />
    <g v-for="t in ticks" :key="t">
      <line :x1="x(t)" :x2="x(t)" :y1="height - 45" :y2="height - 40" class="stroke-ink" />
      <text :x="x(t)" :y="height - 26" text-anchor="middle" class="fill-ink text-[12px]">
        {{ signed(t, Number.isInteger(t) ? 0 : 1) }}
      </text>
    </g>
    <text v-for="h in heights" :key="h" x="44" :y="y(h) + 4" text-anchor="end" class="fill-ink text-[12px]">
      {{ rounded(h, 2) }}
    </text>
    <text :x="width / 2" :y="height - 6" text-anchor="middle" class="fill-ink text-[12px]">
      {{ say('results.axisOff') }}
    </text>
    <text
      x="12"
      :y="height / 2"
      text-anchor="middle"
      class="fill-ink text-[12px]"
      :transform="`rotate(-90 12 ${height / 2})`"
    >
      {{ say('results.axisSpread') }}
    </text>
    <g v-for="p in shown" :key="p.notebook">
      <title>{{ names.get(p.notebook) }}: {{ signed(p.percent) }} %, {{ rounded(p.spread!, 2) }}</title>
      <circle v-if="p.judged === 'satisfactory'" :cx="x(p.percent)" :cy="y(p.spread!)" r="5" class="fill-agree" />
      <path v-else :d="`M${x(p.percent)},${y(p.spread!) - 7}l7,7l-7,7l-7,-7z`" class="fill-alarm" />
    </g>
  </svg>
</template>
