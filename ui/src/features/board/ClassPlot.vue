<script setup lang="ts">
// What the answers of a class say together: each bench on one axis, the median with its
// robust spread, what far-off benches have in common.
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { usePlot } from '@/api/lesson';
import ClassArchive from '@/features/board/ClassArchive.vue';
import { useSession } from '@/session/session';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string }>();
const query = usePlot({ class: props.classId, practical: props.practical });
const plot = query.data;
const session = useSession();
const instructs = computed(() =>
  session.person?.classes.some((c) => c.class === props.classId && c.role === 'instructor'),
);
// As wide as there is room, so that its words keep their size.
const box = ref<HTMLElement>();
const room = useElementSize(box);
const width = computed(() => Math.max(300, room.width.value || 1000));
const line = 20;
const span = computed(() => {
  const p = plot.value;
  const all = (p?.points ?? []).map((x) => Math.abs(x.percent));
  return Math.max(p ? p.allowed * 1.5 : 3, ...all) * 1.08;
});
const x = (percent: number) => 60 + ((percent + span.value) / (2 * span.value)) * (width.value - 120);
const step = computed(() => [0.5, 1, 2, 5, 10, 20, 50, 100].find((s) => span.value / s <= width.value / 150) ?? 200);
const ticks = computed(() => {
  const n = Math.floor(span.value / step.value);
  return Array.from({ length: 2 * n + 1 }, (_, i) => (i - n) * step.value);
});
/** Labels stay inside: outward, but for those near an edge. */
const onLeft = (percent: number) => (Math.abs(percent) > span.value * 0.55 ? percent > 0 : percent < 0);
const height = computed(() => (plot.value?.points.length ?? 0) * line + 60);
const inCommon = computed(
  () => new Map((plot.value?.common ?? []).flatMap((c, i) => c.benches.map((b) => [b, i + 1] as const))),
);
const signed = (v: number) => (v > 0 ? '+' : v < 0 ? '−' : '') + Math.abs(v);
</script>

<template>
  <div v-if="plot">
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h2 class="sr-only">{{ say('title.answers') }}</h2>
      <ClassArchive v-if="instructs" :class-id="classId" :practical="practical" :title="say('title.answers')" />
    </div>
    <p class="mb-1 text-lg" data-test="summary">{{ plot.summary }}</p>
    <p v-if="plot.missing" class="mb-2 text-quiet">{{ say('plot.missing', {}, plot.missing) }}</p>
    <ol v-if="plot.causes.length" class="sheet mb-3 grid gap-1">
      <li v-for="(c, i) in plot.causes" :key="i" class="font-semibold text-rough">{{ i + 1 }}. {{ c }}</li>
    </ol>
    <p v-else-if="plot.points.some((p) => p.far)" class="mb-3 text-quiet">{{ say('plot.nothing') }}</p>
    <div v-if="plot.points.length" class="sheet">
      <div ref="box"></div>
      <svg
        :width="width"
        :height="height"
        role="img"
        :aria-label="`${plot.summary} ${plot.points.map((p) => `${p.bench || p.name} ${p.text}`).join('; ')}`"
      >
        <rect
          :x="x(-plot.allowed)"
          y="0"
          :width="x(plot.allowed) - x(-plot.allowed)"
          :height="height - 40"
          class="fill-well"
        />
        <rect
          :x="x(plot.median - plot.spread)"
          y="0"
          :width="Math.max(1, x(plot.median + plot.spread) - x(plot.median - plot.spread))"
          :height="height - 40"
          class="fill-tint"
        />
        <line
          :x1="x(plot.median)"
          :x2="x(plot.median)"
          y1="0"
          :y2="height - 40"
          class="stroke-accent"
          stroke-width="2"
          stroke-dasharray="6 4"
        />
        <line :x1="x(0)" :x2="x(0)" y1="0" :y2="height - 40" class="stroke-ink" stroke-width="2" />
        <g v-for="(p, i) in plot.points" :key="p.person">
          <line :x1="x(0)" :x2="x(p.percent)" :y1="i * line + 12" :y2="i * line + 12" class="stroke-hair" />
          <circle v-if="!p.far" :cx="x(p.percent)" :cy="i * line + 12" r="6" class="fill-agree" />
          <path v-else :d="`M${x(p.percent)},${i * line + 4}l8,8l-8,8l-8,-8z`" class="fill-alarm" />
          <text
            :x="x(p.percent) + (onLeft(p.percent) ? -12 : 12)"
            :y="i * line + 17"
            :text-anchor="onLeft(p.percent) ? 'end' : 'start'"
            class="fill-ink stroke-ground [stroke-width:5px] text-[13px] [paint-order:stroke]"
          >
            {{ [p.bench, p.name].filter(Boolean).join(' ') }}{{ p.sample ? ` (${p.sample})` : '' }} {{ p.text
            }}{{ inCommon.has(p.person) ? `  [${inCommon.get(p.person)}]` : '' }}
          </text>
        </g>
        <g v-for="t in ticks" :key="t">
          <line :x1="x(t)" :x2="x(t)" :y1="height - 40" :y2="height - 34" class="stroke-ink" />
          <text :x="x(t)" :y="height - 20" text-anchor="middle" class="fill-ink text-[13px]">{{ signed(t) }}</text>
        </g>
        <text :x="width / 2" :y="height - 3" text-anchor="middle" class="fill-ink text-[13px]">{{ plot.axis }}</text>
      </svg>
    </div>
    <p class="mt-2 text-sm text-quiet">{{ say('plot.legend', { allowed: plot.allowed }) }}</p>
  </div>
  <Trouble v-else-if="query.error.value" :error="query.error.value" @again="query.refetch()" />
  <Waiting v-else />
</template>
