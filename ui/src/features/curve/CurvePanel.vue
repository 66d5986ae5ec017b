<script setup lang="ts">
// The runs of a notebook: the curve of one of them, its end by each way, and its points.
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import type { Notebook } from '@/api/client';

/** What a notebook and a report both say of their runs. */
type Curves = Pick<Notebook['sheet'], 'runs' | 'points' | 'probe' | 'setting' | 'units'>;
import { lowers, type Lower, type RunPoint } from '@/features/curve/chart';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import { save } from '@/shared/save';
import { say } from '@/words';

const CurveChart = defineAsyncComponent(() => import('@/features/curve/CurveChart.vue'));
const props = defineProps<{ sheet: Curves; actions?: boolean; large?: boolean }>();
const emit = defineEmits<{ point: [point: RunPoint]; strike: [point: RunPoint]; points: [] }>();

const runs = computed(() => props.sheet.runs ?? []);
const chosen = ref('');
const run = computed(() => runs.value.find((r) => r.trial === chosen.value) ?? runs.value.at(-1));
// A run that begins is the one that is looked at.
watch(
  () => runs.value.find((r) => r.open)?.trial,
  (open) => open && (chosen.value = open),
);
const points = computed(() => (props.sheet.points ?? []).filter((p) => p.trial === run.value?.trial));
const others = computed(() =>
  runs.value
    .filter((r) => r.trial !== run.value?.trial)
    .map((r) => (props.sheet.points ?? []).filter((p) => p.trial === r.trial)),
);
const lower = ref<Lower>('slope');
const picked = ref<string>();
const listed = ref(false);
const point = computed(() => points.value.find((p) => p.entry === picked.value));
const chart = ref<{ svg: () => string }>();
const unit = computed(() => props.sheet.probe?.unit ?? 'pH');
const saveSvg = () =>
  save(new Blob([chart.value?.svg() ?? ''], { type: 'image/svg+xml' }), `${run.value?.name ?? 'curve'}.svg`);
</script>

<template>
  <section class="sheet min-w-0 max-md:col-span-full" :aria-label="say('curve.title')" data-test="curve-panel">
    <div class="mb-1 flex flex-wrap items-center gap-x-4 gap-y-1">
      <h2 class="label">{{ say('curve.title') }}</h2>
      <ChoiceGroup
        v-if="runs.length > 1"
        :label="say('curve.run')"
        :options="runs.map((r) => ({ value: r.trial, text: r.name }))"
        :now="run?.trial ?? ''"
        @choose="(t) => (chosen = t)"
      />
      <p v-if="sheet.probe?.text" class="text-sm text-quiet" data-test="probe-state">{{ sheet.probe.text }}</p>
    </div>
    <CurveChart
      ref="chart"
      v-model:picked="picked"
      :run="run"
      :points="points"
      :others="others"
      :predicted="sheet.setting.predicted ?? []"
      :axis="sheet.probe?.axis ?? 'pH'"
      :volume="sheet.units.volume"
      :lower="lower"
      :large="large"
    />
    <div class="flex flex-wrap items-center gap-2">
      <ChoiceGroup
        :label="say('curve.beneath')"
        :options="lowers.map((value) => ({ value, text: say(`curve.lower.${value}`) }))"
        :now="lower"
        @choose="(l) => (lower = l as Lower)"
      />
      <button v-if="points.length" type="button" class="button px-3 text-sm" @click="saveSvg">
        {{ say('curve.saveSvg') }}
      </button>
      <button v-if="actions" type="button" class="button px-3 text-sm" @click="emit('points')">
        {{ say('points.title') }}
      </button>
    </div>
    <div class="min-h-14 py-1" aria-live="polite">
      <p v-if="point" class="flex flex-wrap items-center gap-x-3 gap-y-1" data-test="picked">
        <span class="figure font-semibold">
          {{ say('curve.point', { burette: point.burette, shown: point.shown, unit, ran: point.v.toFixed(2) }) }}
        </span>
        <span v-if="point.colour">{{ point.colour }}</span>
        <span v-if="point.unsteady" class="text-rough">{{ say('curve.unsteady') }}</span>
        <template v-if="actions">
          <button type="button" class="button min-h-10 px-3 text-sm" @click="emit('point', point)">
            {{ say('curve.correct') }}
          </button>
          <button type="button" class="button min-h-10 px-3 text-sm" @click="emit('strike', point)">
            {{ say('curve.strike') }}
          </button>
        </template>
      </p>
      <p v-else-if="points.length" class="text-sm text-quiet">{{ say('curve.pick') }}</p>
      <p v-else class="text-sm text-quiet">{{ say('curve.empty') }}</p>
    </div>
    <template v-if="run?.ends.length && points.length">
      <table class="w-full border-collapse text-left text-sm" data-test="ends">
        <caption class="sr-only">
          {{
            say('curve.ends')
          }}
        </caption>
        <tbody>
          <tr
            v-for="e in run.ends"
            :key="e.method"
            class="border-t border-hair"
            :class="run.used?.method === e.method && 'font-semibold'"
          >
            <th
              scope="row"
              class="py-1 pr-2 font-normal"
              :class="run.used?.method === e.method && 'font-semibold text-accent'"
            >
              {{ e.name }}
            </th>
            <td class="py-1 pr-2" :class="e.told ? 'figure' : 'text-quiet'">{{ e.text }}</td>
            <td class="py-1 whitespace-nowrap">
              <template v-if="run.used?.method === e.method">{{ say('curve.counts') }}</template>
              <span v-else-if="e.told && run.used" :class="e.agrees ? 'text-agree' : 'text-rough'">{{
                say(e.agrees ? 'curve.agrees' : 'curve.differs')
              }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <ul v-if="run.found.length" class="mt-2 list-disc pl-5 text-sm" data-test="found">
        <li v-for="f in run.found" :key="f">{{ f }}</li>
      </ul>
    </template>
    <details
      v-if="points.length"
      class="mt-2 text-sm"
      @toggle="(e) => (listed = (e.target as HTMLDetailsElement).open)"
    >
      <summary class="min-h-11 py-2 font-semibold">{{ say('curve.list', {}, points.length) }}</summary>
      <table v-if="listed" class="w-full text-left" data-test="point-list">
        <thead>
          <tr class="border-b border-quiet">
            <th scope="col" class="py-1 text-right">{{ say('points.column.volume') }} / {{ sheet.units.volume }}</th>
            <th scope="col" class="py-1 text-right">{{ unit }}</th>
            <th scope="col" class="py-1 text-right">{{ say('curve.ran') }} / {{ sheet.units.volume }}</th>
            <th scope="col" class="py-1 pl-3">{{ say('curve.state') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="p in points"
            :key="p.entry"
            class="border-t border-hair"
            :class="p.withdrawn && 'text-quiet line-through'"
          >
            <td class="figure py-0.5 text-right">{{ p.burette }}</td>
            <td class="figure py-0.5 text-right">{{ p.shown }}</td>
            <td class="figure py-0.5 text-right">{{ p.v.toFixed(2) }}</td>
            <td class="py-0.5 pl-3">
              <s v-for="(old, i) in p.struck ?? []" :key="i" class="figure mr-2 text-quiet">{{ old.text }}</s>
              {{
                [p.colour, p.unsteady && say('curve.unsteady'), p.temperature && `${p.temperature} °C`]
                  .filter(Boolean)
                  .join(', ')
              }}
            </td>
          </tr>
        </tbody>
      </table>
    </details>
  </section>
</template>
