<script setup lang="ts">
// One trial: its readings, its titre, why it is in or out, and what was struck.
// It is drawn anew only when something of it changed.
import type { Schemas, Trial } from '@/api/client';
import EntryComments from '@/features/comments/EntryComments.vue';
import { readingsOf, type Place } from '@/notebook/useBench';
import { say } from '@/words';

defineProps<{
  t: Trial;
  unit: string;
  people: Record<string, string>;
  actions: boolean;
  samples?: string[];
}>();
defineEmits<{
  correct: [place: Place];
  belongs: [trial: Trial, sample: string];
  aside: [trial: Trial];
  restore: [trial: Trial];
  withdraw: [trial: Trial];
}>();
const marks = ['start', 'end'] as const;
const histories = ['type', 'start', 'end', 'setAside', 'others'] as const;
const struck = (t: Trial, mark: (typeof histories)[number]): Schemas['Struck'][] => t.struck[mark] ?? [];
const gone = (t: Trial) => t.withdrawn || t.setAside !== undefined;
const minus = (s: string) => s.replace('-', '−');
// What has no column of its own: refills, the sample's burette, provisional readings.
const others = (t: Trial) => readingsOf(t).filter((p) => p.mark !== 'start' && p.mark !== 'end');
const place = (t: Trial, mark: 'start' | 'end'): Place => ({ trial: t, mark, reading: t[mark]! });
const sign = (t: Trial) => (t.counts ? '[●]' : gone(t) ? '✕' : t.type === 'rough' ? '◌' : '○');
/** The trial itself first: what is said of it stands there. */
const entriesOf = (t: Trial) => [t.id, ...readingsOf(t).map((p) => p.reading.entry)];
const why = (s: Schemas['Struck']) => (s.reason ? say('bench.struckBy', { reason: s.reason }) : say('bench.again'));
</script>

<template>
  <tbody class="border-b border-hair align-top">
    <tr>
      <th
        scope="row"
        class="py-2 pr-2 font-semibold"
        :class="[t.type === 'rough' && 'text-rough', t.counts && 'text-agree', gone(t) && 'line-through']"
      >
        {{ t.name }}
      </th>
      <td v-for="mark in marks" :key="mark" class="figure px-1 py-1 text-right text-lg">
        <s v-for="(s, i) in struck(t, mark)" :key="i" class="block px-2 text-base text-quiet">{{ s.text }}</s>
        <button
          v-if="t[mark] && actions && !t.withdrawn"
          type="button"
          class="print-keep min-h-11 min-w-12 rounded-glass px-2 text-right underline decoration-hair decoration-dotted underline-offset-4 hover:bg-tint"
          :aria-label="`${say('bench.correct')}: ${t.name}, ${say(`bench.${mark}`)} ${t[mark].text}`"
          @click="$emit('correct', place(t, mark))"
        >
          {{ t[mark].text }}
        </button>
        <span v-else class="inline-block px-2 py-1.5">{{ t[mark]?.text ?? '–' }}</span>
      </td>
      <td
        class="figure px-1 py-2.5 text-right text-lg font-bold"
        :class="[gone(t) && 'line-through', t.counts && 'text-agree']"
      >
        {{ t.titre ? minus(t.titre) : '–' }}
      </td>
    </tr>
    <tr>
      <td colspan="4" class="pb-2 text-sm">
        <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
          <span
            class="inline-flex items-center gap-1.5"
            :class="t.counts ? 'font-semibold text-agree' : t.type === 'rough' ? 'text-rough' : 'text-quiet'"
          >
            <span aria-hidden="true" class="figure">{{ sign(t) }}</span>
            {{ t.reasonText }}
          </span>
          <span v-if="t.endColour" class="text-quiet">
            {{ say('bench.colour') }}: {{ say(`bench.colours.${t.endColour}`) }}
          </span>
          <label v-if="samples?.length && actions && !t.withdrawn" class="text-quiet">
            {{ say('bench.ofSample') }}
            <select
              class="min-h-11 rounded-glass border border-hair bg-glass px-1"
              :value="t.ofSample ?? ''"
              @change="$emit('belongs', t, ($event.target as HTMLSelectElement).value)"
            >
              <option v-if="!t.ofSample" value="">–</option>
              <option v-for="name in samples" :key="name" :value="name">{{ name }}</option>
            </select>
          </label>
          <span v-else-if="t.ofSample" class="text-quiet">{{ t.ofSample }}</span>
          <span v-if="t.onCurve" class="text-quiet">
            {{ say('points.onCurve') }} <span class="figure">{{ minus(t.onCurve) }}</span> {{ unit }}
          </span>
          <span v-if="t.sample" class="text-quiet">
            {{ say('bench.sample') }} <span class="figure">{{ t.sample }}</span> {{ unit }}
          </span>
          <template v-if="actions && !t.withdrawn">
            <button
              v-if="t.setAside"
              type="button"
              class="min-h-11 rounded px-1 underline hover:bg-tint"
              @click="$emit('restore', t)"
            >
              {{ say('bench.restore') }}
            </button>
            <button
              v-else-if="t.titre"
              type="button"
              class="min-h-11 rounded px-1 underline hover:bg-tint"
              @click="$emit('aside', t)"
            >
              {{ say('bench.setAside') }}
            </button>
            <button
              v-else
              type="button"
              class="min-h-11 rounded px-1 underline hover:bg-tint"
              @click="$emit('withdraw', t)"
            >
              {{ say('bench.withdraw') }}
            </button>
          </template>
        </div>
        <ul v-if="others(t).length" class="mt-1 flex flex-wrap gap-x-3 gap-y-1">
          <li v-for="p in others(t)" :key="p.reading.entry">
            <component
              :is="actions ? 'button' : 'span'"
              type="button"
              class="min-h-11 rounded"
              :class="actions && 'underline decoration-hair decoration-dotted underline-offset-4 hover:bg-tint'"
              @click="actions && $emit('correct', p)"
            >
              {{ say(`bench.marks.${p.mark}`) }} <span class="figure font-semibold">{{ p.reading.text }}</span>
            </component>
          </li>
        </ul>
        <EntryComments :entries="entriesOf(t)" :what="t.name" />
        <ul class="text-quiet">
          <template v-for="mark in histories" :key="mark">
            <li v-for="(s, i) in struck(t, mark)" :key="i">
              <s>{{ s.text }}</s> {{ why(s) }}
              <template v-if="s.by && people[s.by]"> · {{ people[s.by] }}</template>
            </li>
          </template>
        </ul>
      </td>
    </tr>
  </tbody>
</template>
