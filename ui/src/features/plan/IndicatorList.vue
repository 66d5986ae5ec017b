<script setup lang="ts">
// Indicators, the best first, with their verdict, error and colours.
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import { say } from '@/words';

const props = defineProps<{
  indicators: Schemas['Indicator'][];
  chosen: string;
  unit: string;
  /** Nothing is chosen here. */
  still?: boolean;
  /** Of what does not run nothing is judged. */
  unjudged?: boolean;
}>();
defineEmits<{ choose: [id: string] }>();
const all = ref(false);
const shown = computed(() =>
  all.value ? props.indicators : props.indicators.filter((i, n) => n < 4 || i.id === props.chosen),
);
// How a colour of the catalogue is painted, by its code.
const swatches: Record<string, string> = {
  red: '#c62828',
  yellow: '#f2c200',
  orange: '#ef7d00',
  blue: '#1d4fb4',
  violet: '#6a3fa0',
  purple: '#7a2a8c',
  green: '#2e8b3d',
  grey: '#8a8f94',
  pink: '#e66aa5',
  colourless: '#ffffff',
  'pale-blue': '#b4d4ee',
  'blue-black': '#12142e',
};
const colours = (i: Schemas['Indicator']) => [
  { text: i.beforeText, paint: swatches[i.before] },
  { text: i.at, paint: undefined },
  { text: i.afterText, paint: swatches[i.after] },
];
const sign = { suits: '✓', marginal: '~', unsuitable: '✗' };
const signed = (v: number) => (Math.abs(v) < 0.005 ? '' : v < 0 ? '−' : '+') + Math.abs(v).toFixed(2);
</script>

<template>
  <div>
    <ul class="grid gap-1.5">
      <li
        v-for="i in shown"
        :key="i.id"
        class="flex items-center gap-x-3 rounded-glass border p-2"
        :class="i.id === chosen ? 'border-accent bg-tint' : 'border-hair'"
      >
        <span
          v-if="!unjudged"
          class="figure w-6 text-center font-bold"
          :class="i.end.verdict === 'suits' ? 'text-agree' : i.end.verdict === 'marginal' ? 'text-rough' : 'text-alarm'"
          aria-hidden="true"
          >{{ sign[i.end.verdict] }}</span
        >
        <span class="grow">
          <strong>{{ i.name }}</strong>
          <template v-if="!unjudged">{{ say(`plan.verdicts.${i.end.verdict}`) }}</template>
          <span v-if="!unjudged && !i.self && i.end.reason !== 'never'" class="figure text-sm text-quiet"
            >{{ signed(i.end.error) }} {{ unit }}, {{ signed(i.end.percent) }} %</span
          >
          <span class="block text-sm">
            <template v-for="(c, n) in colours(i)" :key="n">
              <span v-if="n" aria-hidden="true"> → </span>
              <svg v-if="c.paint" viewBox="0 0 12 12" class="inline size-3.5" aria-hidden="true">
                <circle cx="6" cy="6" r="5" :fill="c.paint" stroke="var(--quiet)" />
              </svg>
              {{ c.text }}
            </template>
          </span>
          <span v-if="i.when" class="block text-sm text-quiet">{{ i.when }}</span>
        </span>
        <button
          v-if="i.id !== chosen && !still"
          type="button"
          class="button no-print min-h-11 shrink-0 px-2 text-sm"
          :aria-label="`${say('plan.choose')} ${i.name}`"
          @click="$emit('choose', i.id)"
        >
          {{ say('plan.choose') }}
        </button>
      </li>
    </ul>
    <button v-if="indicators.length > 5" type="button" class="no-print min-h-11 underline" @click="all = !all">
      {{ say(all ? 'plan.fewer' : 'plan.allIndicators') }}
    </button>
  </div>
</template>
