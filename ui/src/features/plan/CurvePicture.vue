<script setup lang="ts">
// The predicted curve with the bands of indicators, the equivalence and its
// one-drop steps. It draws what the core computed.
import { useMediaQuery } from '@vueuse/core';
import { computed } from 'vue';
import type { Schemas } from '@/api/client';
import { say } from '@/words';

const props = defineProps<{
  curve: Schemas['Curve'];
  indicators: Schemas['Indicator'][];
  chosen?: string;
  unit: string;
  rests?: string[];
  title: string; // of the practical, for the names of files
}>();
// In the drawing's own units: on a phone it is drawn smaller, and its letters stay as large.
const narrow = useMediaQuery('(max-width: 40rem)');
const box = computed(() =>
  narrow.value
    ? { width: 350, height: 300, left: 44, right: 104, top: 12, bottom: 260 }
    : { width: 560, height: 380, left: 48, right: 150, top: 12, bottom: 340 },
);

const to = computed(() => props.curve.points.at(-1)!.v);
const range = computed(() => {
  const values = props.curve.points.map((p) => p.y);
  const low = Math.min(...values);
  const high = Math.max(...values);
  return props.curve.kind === 'pH'
    ? { low: Math.max(0, Math.floor(low)), high: Math.min(14, Math.ceil(high)), step: 1 }
    : { low: Math.floor(low * 5) / 5, high: Math.ceil(high * 5) / 5, step: 0.2 };
});
const x = (v: number) => box.value.left + ((box.value.width - box.value.left - box.value.right) * v) / to.value;
const y = (v: number) =>
  box.value.bottom -
  ((box.value.bottom - box.value.top) * (v - range.value.low)) / (range.value.high - range.value.low);
const line = (points: Schemas['Point'][]) =>
  points
    .filter((p) => p.v <= to.value && p.y >= range.value.low)
    .map((p, i) => `${i ? 'L' : 'M'}${x(p.v).toFixed(1)} ${y(p.y).toFixed(1)}`)
    .join('');
const levels = computed(() => {
  const { low, high, step } = range.value;
  return Array.from({ length: Math.round((high - low) / step) + 1 }, (_, i) => Number((low + i * step).toFixed(2)));
});
const volumes = computed(() => {
  const step = [1, 2, 5, 10, 20, 50].find((s) => to.value / s <= 8) ?? 100;
  return Array.from({ length: Math.floor(to.value / step) + 1 }, (_, i) => i * step);
});
// The chosen one, and the best of the others.
const bands = computed(() => {
  const chosen = props.indicators.filter((i) => i.id === props.chosen);
  const others = props.indicators.filter((i) => i.id !== props.chosen && i.end.verdict === 'suits').slice(0, 2);
  // Names stand below each other where their bands overlap.
  let last = -100;
  return [...chosen, ...others]
    .sort((a, b) => b.low + b.high - a.low - a.high)
    .map((i) => {
      const middle = y(Math.min(Math.max((i.low + i.high) / 2, range.value.low), range.value.high));
      last = Math.max(middle, last + 18);
      return {
        ...i,
        label: last,
        top: y(Math.min(i.high, range.value.high)),
        height: Math.max(4, y(Math.max(i.low, range.value.low)) - y(Math.min(i.high, range.value.high))),
        isChosen: i.id === props.chosen,
      };
    });
});
const end = computed(() => props.indicators.find((i) => i.id === props.chosen)?.end);

function save(kind: string, type: string, text: string) {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = `${props.title || say('title.plan')} ${new Date().toISOString().slice(0, 10)}.${kind}`;
  link.click();
  URL.revokeObjectURL(link.href);
}
const csv = () =>
  save(
    'csv',
    'text/csv',
    `volume/${props.unit},${props.curve.kind}\r\n` +
      props.curve.points.map((p) => `${p.v.toFixed(4)},${p.y.toFixed(4)}`).join('\r\n'),
  );
function svg(e: Event) {
  const drawing = (e.target as HTMLElement).closest('figure')!.querySelector('svg')!;
  // Colours are those of the page; outside it they are written out.
  const copy = drawing.cloneNode(true) as SVGElement;
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  const style = getComputedStyle(document.documentElement);
  const text = copy.outerHTML.replace(/var\((--[a-z]+)\)/g, (_, name: string) => style.getPropertyValue(name).trim());
  save('svg', 'image/svg+xml', text);
}
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${box.width} ${box.height}`" class="w-full" role="img" :aria-label="say('plan.curve')">
      <g v-for="b in bands" :key="b.id">
        <rect
          :x="box.left"
          :y="b.top"
          :width="box.width - box.left - box.right"
          :height="b.height"
          :fill="b.isChosen ? 'var(--tint)' : 'none'"
          :stroke="b.isChosen ? 'var(--accent)' : 'var(--quiet)'"
          :stroke-dasharray="b.isChosen ? undefined : '3 3'"
        />
        <text
          :x="box.width - box.right + 6"
          :y="b.label + 4"
          font-size="14"
          :font-weight="b.isChosen ? 700 : 400"
          :fill="b.isChosen ? 'var(--accent)' : 'var(--quiet)'"
        >
          {{ b.name }}
        </text>
      </g>
      <path
        :d="`M${box.left} ${box.top} V${box.bottom} H${box.width - box.right}`"
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.5"
      />
      <g v-for="l in levels" :key="'l' + l">
        <line :x1="box.left - 4" :x2="box.left" :y1="y(l)" :y2="y(l)" stroke="var(--ink)" />
        <text :x="box.left - 8" :y="y(l) + 4" text-anchor="end" font-size="14" fill="var(--ink)" class="figure">
          {{ l }}
        </text>
      </g>
      <g v-for="v in volumes" :key="'v' + v">
        <line :x1="x(v)" :x2="x(v)" :y1="box.bottom" :y2="box.bottom + 4" stroke="var(--ink)" />
        <text :x="x(v)" :y="box.bottom + 17" text-anchor="middle" font-size="14" fill="var(--ink)" class="figure">
          {{ v }}
        </text>
      </g>
      <text
        :x="(box.left + box.width - box.right) / 2"
        :y="box.height - 4"
        text-anchor="middle"
        font-size="15"
        fill="var(--ink)"
      >
        V / {{ unit }}
      </text>
      <text x="14" :y="box.bottom / 2" font-size="15" fill="var(--ink)" :transform="`rotate(-90 14 ${box.bottom / 2})`">
        {{ curve.kind === 'pH' ? 'pH' : 'E / V' }}
      </text>
      <path
        v-if="curve.boiled"
        :d="line(curve.boiled)"
        fill="none"
        stroke="var(--quiet)"
        stroke-width="1.5"
        stroke-dasharray="5 4"
      />
      <path :d="line(curve.points)" fill="none" stroke="var(--accent)" stroke-width="2.5" />
      <g v-for="(p, i) in curve.half" :key="'h' + i">
        <circle :cx="x(p.v)" :cy="y(p.y)" r="4" fill="var(--glass)" stroke="var(--quiet)" stroke-width="1.5" />
      </g>
      <g v-for="(p, i) in curve.equivalence" :key="'e' + i">
        <circle :cx="x(p.v)" :cy="y(p.y)" :r="i ? 3.5 : 5" :fill="i ? 'var(--quiet)' : 'var(--ink)'" />
      </g>
      <path
        v-if="end && end.volume > 0 && end.volume < to"
        :d="`M${x(end.volume)} ${box.bottom} V${box.bottom - 16} m-5 6 l5 -6 l5 6`"
        fill="none"
        stroke="var(--end)"
        stroke-width="2.5"
      />
    </svg>
    <figcaption class="text-sm text-quiet">
      {{
        say('plan.curveSays', {
          v: curve.equivalence[0]!.v.toFixed(2),
          y: curve.equivalence[0]!.y.toFixed(2),
          before: curve.before.y.toFixed(2),
          after: curve.after.y.toFixed(2),
          kind: curve.kind === 'pH' ? 'pH' : 'E',
          unit,
        })
      }}
      <template v-if="curve.boiled">{{ say('plan.boiled') }}</template>
      <span v-for="r in rests" :key="r" class="block">{{ r }}</span>
      <span class="no-print">
        <button type="button" class="min-h-11 underline" @click="csv">CSV</button> ·
        <button type="button" class="min-h-11 underline" @click="svg">SVG</button>
      </span>
    </figcaption>
  </figure>
</template>
