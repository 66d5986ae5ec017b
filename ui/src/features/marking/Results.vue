<script setup lang="ts">
// What came out of a practical in a class: marks, criteria, slips to teach from, answers
// against the true value, precision against accuracy.
import { computed, ref } from 'vue';
import { useMarkingLog, useResults } from '@/api/marking';
import { written } from '@/features/marking/marks';
import Scatter from '@/features/marking/Scatter.vue';
import { useSession } from '@/session/session';
import Trouble from '@/shared/Trouble.vue';
import { rounded } from '@/shared/rounded';
import { whenIs } from '@/shared/when';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string }>();
const where = { class: props.classId, practical: props.practical };
const query = useResults(where);
const data = query.data;
const session = useSession();
const instructs = computed(() =>
  session.person?.classes.some((c) => c.class === props.classId && c.role === 'instructor'),
);
const names = computed(() => new Map(data.value?.rows.map((r) => [r.notebook, r.name])));
const round = (v: number, places = 1) => rounded(v, places);
const most = computed(() => Math.max(1, ...(data.value?.together.bins ?? [])));
const columns = [
  'name',
  'bench',
  'unknown',
  'late',
  'answer',
  'criteria',
  'total',
  'percent',
  'released',
  'slips',
] as const;
const wanted = ref<string[]>(['name', 'criteria', 'total', 'percent']);
const rounding = ref<'none' | 'half' | 'whole'>('none');
const fileAt = (ending: 'csv' | 'xlsx') =>
  `/api/classes/${props.classId}/practicals/${props.practical}/gradebook.${ending}?round=${rounding.value}&columns=${columns.filter((c) => wanted.value.includes(c)).join(',')}`;
const history = ref(false);
const { data: log } = useMarkingLog(where, history);
const params = computed(() => ({ classId: props.classId, practical: props.practical }));
const answers = computed(() => data.value?.together.answers ?? []);
</script>

<template>
  <div v-if="data" class="grid grid-cols-1 gap-4" data-test="results">
    <h2 class="sr-only">{{ say('title.results') }}</h2>
    <p v-if="!data.rows.length" class="sheet text-quiet">{{ say('marking.empty') }}</p>
    <template v-else>
      <div class="grid items-start gap-4 lg:grid-cols-3">
        <section class="sheet">
          <h2 class="mb-1 font-bold">{{ say('results.marks') }}</h2>
          <p>
            {{
              say('results.summary', {
                count: data.together.count,
                mean: round(data.together.mean),
                median: round(data.together.median),
                spread: round(data.together.spread),
                possible: written(data.together.possible),
              })
            }}
          </p>
          <div class="mt-2 flex h-32 items-end gap-1" role="img" :aria-label="data.together.bins.join(', ')">
            <div
              v-for="(n, i) in data.together.bins"
              :key="i"
              class="flex h-full grow flex-col items-center justify-end"
            >
              <span v-if="n" class="figure text-sm">{{ n }}</span>
              <div class="w-full rounded-t bg-accent" :style="{ height: `${(n / most) * 75}%` }" />
              <span class="figure text-xs text-quiet">{{ i * 10 }}</span>
            </div>
          </div>
          <p class="text-center text-xs text-quiet">{{ say('results.percentOf') }}</p>
        </section>
        <section class="sheet lg:col-span-2">
          <h2 class="mb-1 font-bold">{{ say('results.slips') }}</h2>
          <p v-if="!data.slips.length" class="text-quiet">{{ say('results.noSlips') }}</p>
          <ul class="max-h-52 overflow-y-auto text-sm" tabindex="0" data-test="slips">
            <li v-for="s in data.slips" :key="s.text" class="border-t border-hair py-1 first:border-0">
              <strong class="figure">{{ s.names.length }}×</strong> {{ s.text }}
              <span class="text-quiet">{{ s.names.join(', ') }}</span>
            </li>
          </ul>
        </section>
      </div>
      <section class="sheet">
        <h2 class="mb-2 font-bold">{{ say('results.criteria') }}</h2>
        <ul class="grid gap-x-6 gap-y-0.5 text-sm md:grid-cols-2">
          <li v-for="(c, i) in data.criteria" :key="c.id" class="grid grid-cols-[1fr_7rem_5rem] items-center gap-2">
            <span class="truncate" :title="c.title">{{ c.title }}</span>
            <span class="h-3 rounded bg-well"
              ><span
                class="block h-3 rounded"
                :class="data.together.criteria[i]!.facility < 0.5 ? 'bg-rough' : 'bg-agree'"
                :style="{ width: `${100 * data.together.criteria[i]!.facility}%` }"
            /></span>
            <span class="figure text-right">{{ round(data.together.criteria[i]!.mean, 2) }}/{{ written(c.most) }}</span>
          </li>
        </ul>
      </section>
      <section v-if="answers.length" class="sheet">
        <h2 class="mb-1 font-bold">{{ say('results.answers') }}</h2>
        <p class="mb-2 text-sm">
          {{
            say(data.together.comparable ? 'results.robust' : 'results.tooFew', {
              median: round(data.together.answerMedian, 2),
              spread: round(data.together.answerSpread, 2),
            })
          }}
        </p>
        <div class="grid gap-4 lg:grid-cols-2">
          <div class="max-h-80 overflow-y-auto" tabindex="0">
            <table class="w-full text-left text-sm">
              <thead class="text-quiet">
                <tr>
                  <th scope="col">{{ say('person.name') }}</th>
                  <th scope="col" class="text-right">{{ say('results.off') }}</th>
                  <th scope="col" class="text-right">z</th>
                  <th scope="col" class="pl-3">{{ say('results.judged') }}</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="p in answers" :key="p.notebook" class="border-t border-hair">
                  <td>{{ names.get(p.notebook) }}</td>
                  <td class="figure text-right">{{ round(p.percent, 2) }}</td>
                  <td class="figure text-right">{{ data.together.comparable ? round(p.z) : '–' }}</td>
                  <td class="pl-3" :class="p.judged !== 'satisfactory' && 'font-semibold text-alarm'">
                    {{ data.together.comparable ? say(`results.z.${p.judged}`) : '' }}
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
          <Scatter :points="answers" :names="names" :spread="data.together.answerSpread" />
        </div>
        <div class="mt-3 grid gap-4 text-sm lg:grid-cols-2">
          <div v-for="g in ['byUnknown', 'byBench'] as const" :key="g">
            <template v-if="data.together[g].length > 1 && data.together[g].some((x) => x.count > 1)">
              <h3 class="font-semibold">{{ say(`results.${g}`) }}</h3>
              <p class="flex flex-wrap gap-x-4">
                <span v-for="x in data.together[g]" :key="x.name"
                  ><strong class="mr-1">{{ x.name }}</strong
                  ><span class="figure">{{ round(x.median, 2) }} % ({{ x.count }})</span></span
                >
              </p>
            </template>
          </div>
        </div>
      </section>
      <section class="sheet overflow-x-auto">
        <div class="mb-2 flex flex-wrap items-center justify-between gap-2">
          <h2 class="font-bold">{{ say('results.table') }}</h2>
        </div>
        <table class="w-full text-left text-sm">
          <thead class="text-quiet">
            <tr>
              <th scope="col">{{ say('person.name') }}</th>
              <th scope="col">{{ say('class.bench') }}</th>
              <th scope="col">{{ say('class.sample') }}</th>
              <th scope="col" class="max-sm:hidden">{{ say('results.answer') }}</th>
              <th scope="col" class="text-right">{{ say('marking.total') }}</th>
              <th scope="col" class="pl-4 max-sm:hidden">{{ say('results.slip') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in data.rows" :key="r.notebook" class="border-t border-hair">
              <td class="font-semibold">
                <RouterLink
                  class="inline-flex min-h-8 items-center underline"
                  :to="{ name: 'mark', params: { ...params, notebook: r.notebook } }"
                  >{{ r.name }}</RouterLink
                >
              </td>
              <td class="figure">{{ r.bench }}</td>
              <td class="figure">{{ r.unknown }}</td>
              <td class="figure max-sm:hidden">{{ r.answer }}</td>
              <td class="figure text-right">
                {{ r.whole ? written(r.total) : '–' }}
              </td>
              <td class="pl-4 text-quiet max-sm:hidden">{{ r.slips.join(' ') }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section v-if="instructs" class="sheet">
        <h2 class="mb-1 font-bold">{{ say('results.gradebook') }}</h2>
        <fieldset class="flex flex-wrap gap-x-4">
          <legend class="sr-only">{{ say('results.columns') }}</legend>
          <label v-for="c in columns" :key="c" class="flex min-h-10 items-center gap-2"
            ><input v-model="wanted" type="checkbox" class="size-5 accent-accent" :value="c" />{{
              say(`results.column.${c}`)
            }}</label
          >
        </fieldset>
        <div class="mt-1 flex flex-wrap items-center gap-2">
          <label class="flex items-center gap-2"
            >{{ say('results.rounding') }}
            <select v-model="rounding" class="field min-h-10 w-auto">
              <option v-for="r in ['none', 'half', 'whole'] as const" :key="r" :value="r">
                {{ say(`results.round.${r}`) }}
              </option>
            </select></label
          >
          <a class="button min-h-10" :href="fileAt('csv')" download>CSV</a>
          <a class="button min-h-10" :href="fileAt('xlsx')" download>XLSX</a>
        </div>
        <button type="button" class="min-h-11 underline" :aria-expanded="history" @click="history = !history">
          {{ say('results.history') }}
        </button>
        <ul v-if="history" class="max-h-80 overflow-y-auto text-sm" tabindex="0">
          <li v-for="(l, i) in log" :key="i">
            <span class="figure text-quiet">{{ whenIs(l.at) }}</span> {{ l.text }}
          </li>
        </ul>
      </section>
    </template>
  </div>
  <Trouble v-else-if="query.error.value" :error="query.error.value" @again="query.refetch()" />
  <Waiting v-else />
</template>
