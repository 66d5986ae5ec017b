<script setup lang="ts">
// A short number line around the titres; a bracket closes round a set that agrees.
import { computed } from 'vue';
import type { Notebook } from '@/api/client';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; small?: boolean }>();
const width = computed(() => (props.small ? 260 : 480));
const sheet = computed(() => props.notebook.sheet);
const tolerance = computed(() => Number(sheet.value.agreement.allowed));

const ticks = computed(() =>
  sheet.value.trials
    .filter((t) => t.compared && !t.withdrawn && (!sheet.value.workedOn || t.ofSample === sheet.value.workedOn))
    .map((t) => ({
      v: Number(t.compared),
      short: t.short,
      kind: t.setAside ? 'aside' : t.type === 'rough' ? 'rough' : t.counts ? 'counts' : 'pending',
    })),
);
// The line shows what is judged; a far rough or set-aside titre stands at its edge.
const span = computed(() => {
  const judged = ticks.value.filter((t) => t.kind === 'counts' || t.kind === 'pending').map((t) => t.v);
  const all = judged.length ? judged : ticks.value.map((t) => t.v);
  const low = Math.min(...all);
  const high = Math.max(...all);
  const margin = Math.max(tolerance.value * 1.5, (high - low) * 0.2);
  return { low: low - margin, high: high + margin };
});
const x = (v: number) =>
  24 +
  ((width.value - 48) * (Math.min(Math.max(v, span.value.low), span.value.high) - span.value.low)) /
    (span.value.high - span.value.low);
const outside = (v: number) => (v < span.value.low ? '‹' : v > span.value.high ? '›' : '');

const bracket = computed(() => {
  const chosen = ticks.value.filter((t) => t.kind === 'counts').map((t) => t.v);
  if (chosen.length) return { from: Math.min(...chosen), to: Math.max(...chosen), closed: true };
  const first = ticks.value.filter((t) => t.kind === 'pending').map((t) => t.v);
  if (!first.length) return undefined;
  const low = Math.min(...first);
  return { from: low, to: low + tolerance.value, closed: false };
});
// Names that would overlap stand on two levels.
const placed = computed(() => {
  let last = -100;
  let level = 0;
  return [...ticks.value]
    .sort((a, b) => a.v - b.v)
    .map((t) => {
      const at = x(t.v);
      level = at - last < 22 ? level + 1 : 0;
      last = at;
      return { ...t, at, level };
    });
});
</script>

<template>
  <svg v-if="ticks.length" :viewBox="`0 0 ${width} 108`" class="w-full" role="img" :aria-label="sheet.agreement.text">
    <line x1="8" :x2="width - 8" y1="64" y2="64" stroke="var(--quiet)" stroke-width="1.5" />
    <path
      v-if="bracket"
      :d="`M${x(bracket.from) - 9 + 6} 74 h-6 v-20 h6 M${x(bracket.to) + 9 - 6} 74 h6 v-20 h-6`"
      fill="none"
      :stroke="bracket.closed ? 'var(--agree)' : 'var(--quiet)'"
      :stroke-width="bracket.closed ? 3.5 : 1.5"
      :stroke-dasharray="bracket.closed ? undefined : '4 3'"
    />
    <text
      v-if="bracket"
      :x="(x(bracket.from) + x(bracket.to)) / 2"
      y="98"
      text-anchor="middle"
      font-size="15"
      :fill="bracket.closed ? 'var(--agree)' : 'var(--quiet)'"
    >
      {{ say('bench.tolerance') }}
      <tspan class="figure">{{ sheet.agreement.allowed }}</tspan>
      {{ sheet.units.compared ?? sheet.units.volume }}
    </text>
    <g v-for="(t, i) in placed" :key="i">
      <line
        :x1="t.at"
        :x2="t.at"
        y1="55"
        y2="73"
        :stroke="t.kind === 'counts' ? 'var(--agree)' : t.kind === 'rough' ? 'var(--rough)' : 'var(--ink)'"
        :stroke-width="t.kind === 'counts' ? 4 : 2"
        :stroke-dasharray="t.kind === 'rough' ? '4 2' : t.kind === 'aside' ? '2 2' : undefined"
      />
      <text
        :x="t.at"
        :y="48 - t.level * 16"
        text-anchor="middle"
        font-size="15"
        font-weight="700"
        :fill="t.kind === 'counts' ? 'var(--agree)' : t.kind === 'rough' ? 'var(--rough)' : 'var(--ink)'"
        :text-decoration="t.kind === 'aside' ? 'line-through' : undefined"
      >
        {{ outside(t.v) === '‹' ? '‹' : '' }}{{ t.short }}{{ outside(t.v) === '›' ? '›' : '' }}
      </text>
    </g>
  </svg>
</template>
