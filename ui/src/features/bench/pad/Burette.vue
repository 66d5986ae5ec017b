<script setup lang="ts">
// The burette to scale, counting down from 0 at the top: fill level, bands of
// past trials, where to slow down and where the end is expected.
import { computed } from 'vue';
import type { Notebook, Trial } from '@/api/client';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; small?: boolean }>();

// Sizes in the drawing's own units. The small one stands beside the keys of a
// phone, and its letters must still be read there.
const large = { width: 216, height: 576, scale: 518, left: 46, right: 84, bands: 96, step: 22, shown: 5, font: 15 };
const little = { width: 112, height: 440, scale: 384, left: 24, right: 46, bands: 52, step: 20, shown: 3, font: 14 };
const size = computed(() => (props.small ? little : large));
const top = 18;
const bottom = computed(() => top + size.value.scale);

const sheet = computed(() => props.notebook.sheet);
const capacity = computed(() => Number(props.notebook.sheet.setting.burette.capacity));
const onGlass = (v: number) => Math.min(capacity.value * 1.03, Math.max(-capacity.value * 0.02, v));
// A scale that shows what is left is full at its top.
const depth = (v: number) => (props.notebook.sheet.setting.burette.rising ? capacity.value - v : v);
const onScale = (v: number) => top + (size.value.scale * onGlass(v)) / capacity.value;
const y = (reading: number) => onScale(depth(reading));

const marks = computed(() => {
  const step = capacity.value > 30 ? 0.5 : 0.25;
  const every = capacity.value > 30 ? 10 : 4; // a number at every 5 mL, or every 1 mL
  const { left, right } = size.value;
  const out = { fine: '', numbered: '', numbers: [] as number[] };
  // Two paths for all of them: a line for each was half of what the bench is made of.
  for (let i = 0; i <= Math.round(capacity.value / step); i++) {
    const numbered = i % every === 0;
    const length = numbered ? 0.65 : i % 2 === 0 ? 0.4 : 0.24;
    const line = `M${left} ${y(i * step).toFixed(2)}h${((right - left) * length).toFixed(2)}`;
    if (numbered) {
      out.numbered += line;
      out.numbers.push(i * step);
    } else out.fine += line;
  }
  return out;
});

const trials = computed(() => sheet.value.trials.filter((t) => !t.withdrawn && t.start));
const level = computed(() => {
  const last = trials.value.at(-1);
  // Of a run that is followed the last point says where it stands.
  const point = last && !last.end && sheet.value.points?.filter((p) => p.trial === last.id && !p.withdrawn).at(-1);
  if (point) return Number.parseFloat(point.burette.replace(',', '.'));
  const reading = last?.end ?? last?.provisional?.at(-1) ?? last?.refills?.at(-1)?.after ?? last?.start;
  return reading ? Number(reading.value) : undefined;
});
const outline = computed(() => {
  const { left, right } = size.value;
  const b = bottom.value;
  const jet = (right - left) / 2 - 4;
  return {
    glass: `M${left} 4 V${b + 6} l${jet} 14 V${size.value.height - 4} M${right} 4 V${b + 6} l${-jet} 14 V${size.value.height - 4}`,
    liquid: (at: number) =>
      `M${left + 1} ${at - 3} Q${(left + right) / 2} ${at + 4} ${right - 1} ${at - 3} V${b + 6} l${-jet} 13 h${-(right - left - 2 - 2 * jet)} l${-jet} -13 Z`,
  };
});

const kinds = {
  rough: { fill: 'none', line: 'var(--rough)', text: 'var(--rough)' },
  counts: { fill: 'var(--agree)', line: 'var(--agree)', text: 'var(--agree)' },
  aside: { fill: 'url(#hatch)', line: 'var(--quiet)', text: 'var(--quiet)' },
  pending: { fill: 'var(--well)', line: 'var(--quiet)', text: 'var(--ink)' },
};
const kindOf = (t: Trial): keyof typeof kinds =>
  t.setAside ? 'aside' : t.type === 'rough' ? 'rough' : t.counts ? 'counts' : 'pending';
const bands = computed(() =>
  trials.value.slice(-size.value.shown).map((t, i) => {
    const from = y(Number(t.start!.value));
    const kind = kindOf(t);
    // Each filling begins a new piece of the band.
    const pieces: { top: number; height: number }[] = [];
    let at = from;
    const run = (to: number) => pieces.push({ top: Math.min(at, to), height: Math.max(2, Math.abs(to - at)) });
    for (const r of t.refills ?? []) {
      if (r.before) run(y(Number(r.before.value)));
      if (r.after) at = y(Number(r.after.value));
    }
    if (t.end) run(y(Number(t.end.value)));
    return {
      id: t.id,
      x: size.value.bands + i * size.value.step,
      top: t.end ? Math.min(...pieces.map((p) => p.top)) : at,
      pieces,
      kind,
      look: kinds[kind],
      open: !t.end,
      short: t.short,
    };
  }),
);

const next = computed(() => sheet.value.next);
const runTo = computed(() => (next.value.entry?.point ? next.value.entry.proposal : undefined));
const guides = computed(() =>
  [
    { v: next.value.slowAt, key: 'bench.slow' as const, colour: 'var(--ink)', dash: '5 3', up: true },
    { v: runTo.value, key: 'points.runTo' as const, colour: 'var(--end)', dash: '', up: false },
    { v: next.value.expectAt, key: 'bench.expect' as const, colour: 'var(--end)', dash: '', up: false },
  ].flatMap((g) => (g.v === undefined ? [] : [{ ...g, at: y(Number(g.v)), v: g.v }])),
);
</script>

<template>
  <svg
    :viewBox="`0 0 ${size.width} ${size.height}`"
    class="mx-auto max-h-[600px] w-full"
    role="img"
    :aria-label="say('bench.buretteAlt', { capacity: sheet.setting.burette.capacity, unit: sheet.units.volume })"
  >
    <defs>
      <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="6" stroke="var(--quiet)" stroke-width="2" />
      </pattern>
    </defs>
    <path v-if="level !== undefined" :d="outline.liquid(y(level))" fill="var(--liquid)" stroke="var(--quiet)" />
    <path :d="outline.glass" fill="none" stroke="var(--quiet)" stroke-width="1.5" />
    <path :d="marks.fine" stroke="var(--ink)" stroke-width="0.8" />
    <path :d="marks.numbered" stroke="var(--ink)" stroke-width="1.6" />
    <text
      v-for="v in marks.numbers"
      :key="v"
      :x="size.left - 6"
      :y="y(v) + 5"
      text-anchor="end"
      class="figure"
      :font-size="size.font"
      fill="var(--ink)"
    >
      {{ v }}
    </text>
    <g v-for="b in bands" :key="b.id">
      <template v-for="(piece, i) in b.pieces" :key="i">
        <rect
          :x="b.x"
          :y="piece.top"
          width="15"
          :height="piece.height"
          rx="2"
          :fill="b.look.fill"
          :stroke="b.look.line"
          stroke-width="1.8"
          :stroke-dasharray="b.kind === 'rough' ? '6 4' : undefined"
        />
        <path
          v-if="b.kind === 'counts'"
          :d="`M${b.x + 12} ${piece.top + 4} h-8 v${Math.max(0, piece.height - 8)} h8`"
          fill="none"
          stroke="var(--glass)"
          stroke-width="2"
        />
      </template>
      <path
        v-if="b.open"
        :d="`M${b.x} ${b.top} h15 M${b.x + 7.5} ${b.top} v12 m-4 -5 l4 5 l4 -5`"
        fill="none"
        stroke="var(--accent)"
        stroke-width="2"
      />
      <text
        :x="b.x + 7.5"
        :y="b.top - 4"
        text-anchor="middle"
        :font-size="size.font"
        font-weight="700"
        :fill="b.look.text"
        :text-decoration="b.kind === 'aside' ? 'line-through' : undefined"
      >
        {{ b.short }}
      </text>
    </g>
    <g v-for="g in guides" :key="g.key">
      <line
        :x1="size.left"
        :x2="size.width - 2"
        :y1="g.at"
        :y2="g.at"
        :stroke="g.colour"
        stroke-width="2"
        :stroke-dasharray="g.dash"
      />
      <rect
        :x="size.right + 2"
        :y="g.up ? g.at - size.font - 7 : g.at + 2"
        :width="size.width - size.right - 2"
        :height="size.font + 5"
        fill="var(--glass)"
      />
      <text
        :x="size.width - 3"
        :y="g.up ? g.at - 6 : g.at + size.font + 2"
        text-anchor="end"
        :font-size="size.font"
        font-weight="700"
        :fill="g.colour"
      >
        <template v-if="!small">{{ say(g.key) }}&nbsp;</template>
        <tspan class="figure">{{ g.v }}</tspan>
      </text>
    </g>
  </svg>
</template>
