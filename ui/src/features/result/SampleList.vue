<script setup lang="ts">
// Several samples beside each other: an answer each with its uncertainty, drawn on
// one scale, and how far each lies from the control.
import { computed } from 'vue';
import type { Schemas } from '@/api/client';
import { say } from '@/words';

const props = defineProps<{ samples: Schemas['Sample'][]; still?: boolean }>();
const shown = defineModel<number>({ default: 0 });
const box = { width: 640, left: 150, right: 24, row: 44, top: 14 };
const found = computed(() => props.samples.filter((s) => s.answer));
// The scale runs from the lowest to the highest end of a bar, with a little room.
const scale = computed(() => {
  const low = Math.min(...found.value.map((s) => s.value! - (s.spread ?? 0)));
  const high = Math.max(...found.value.map((s) => s.value! + (s.spread ?? 0)));
  const room = (high - low || Math.abs(high) || 1) * 0.12;
  return { low: low - room, high: high + room };
});
const x = (v: number) =>
  box.left + ((box.width - box.left - box.right) * (v - scale.value.low)) / (scale.value.high - scale.value.low);
const y = (i: number) => box.top + box.row * (i + 0.5);
const height = computed(() => box.top + box.row * props.samples.length + 8);
</script>

<template>
  <section class="sheet">
    <h2 class="mb-2 text-xl font-bold print:text-base">{{ say('result.samples') }}</h2>
    <svg
      v-if="found.length"
      :viewBox="`0 0 ${box.width} ${height}`"
      class="mb-3 w-full max-w-3xl"
      role="img"
      :aria-label="say('result.samplesPlot')"
      data-test="samples-plot"
    >
      <g v-for="(s, i) in samples" :key="s.name">
        <text x="0" :y="y(i) + 4" font-size="15" fill="var(--ink)" :font-weight="s.control ? 700 : 400">
          {{ s.name }}
        </text>
        <line :x1="box.left" :x2="box.width - box.right" :y1="y(i)" :y2="y(i)" stroke="var(--hair)" />
        <template v-if="s.answer">
          <path
            v-if="s.spread"
            :d="`M${x(s.value! - s.spread)} ${y(i) - 6} v12 m0 -6 H${x(s.value! + s.spread)} m0 -6 v12`"
            fill="none"
            stroke="var(--accent)"
            stroke-width="2"
          />
          <text :x="x(s.value!)" :y="y(i) - 11" text-anchor="middle" font-size="14" class="figure" fill="var(--ink)">
            {{ s.answer.value }} {{ s.answer.unit }}
          </text>
          <circle :cx="x(s.value!)" :cy="y(i)" r="5" :fill="s.control ? 'var(--ink)' : 'var(--accent)'" />
        </template>
      </g>
    </svg>
    <ul class="grid gap-2">
      <li v-for="(s, i) in samples" :key="s.name" class="border-t border-hair pt-2">
        <p class="flex flex-wrap items-baseline gap-x-3">
          <strong>{{ s.name }}</strong>
          <span v-if="s.control" class="text-sm text-quiet">{{ say('result.control') }}</span>
          <button
            v-if="s.answer && !still && i !== shown"
            type="button"
            class="no-print min-h-11 underline"
            @click="shown = i"
          >
            {{ say('result.showWorking') }}
          </button>
        </p>
        <p>{{ s.answer?.statement ?? s.agreement }}</p>
        <p v-if="s.answer?.uncertainty" class="text-sm text-quiet">{{ s.answer.uncertainty.sentence }}</p>
        <p v-if="s.difference" :class="s.clear ? 'font-semibold' : 'text-quiet'">{{ s.difference }}</p>
      </li>
    </ul>
  </section>
</template>
