<script setup lang="ts">
// Points out of a file or a paste: looked at first, columns put right, then written down.
import { computed, ref } from 'vue';
import type { Notebook, Schemas } from '@/api/client';
import { readPoints } from '@/api/reports';
import type { Bench } from '@/notebook/useBench';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; bench: Bench }>();
const emit = defineEmits<{ close: [] }>();
const text = ref('');
const content = ref<Blob>();
const table = ref<Schemas['ReadTable']>();
const problem = ref('');
const busy = ref(false);
const run = ref(1); // of several in one table, the one that is taken
const rows = computed(() => (table.value?.rows ?? []).filter((r) => r.run === run.value));
const good = computed(() => rows.value.filter((r) => !r.fault));
const bad = computed(() => rows.value.filter((r) => r.fault || r.odd));
const open = computed(() => props.notebook.sheet.next.entry?.point && props.notebook.sheet.next.entry.trial);
const names = ['volume', 'reading', 'temperature'] as const;
const first = 8;

const guess = { volume: -1, reading: -1, temperature: -1 };
let wanted = guess; // which columns were asked for last
async function look(columns = guess) {
  problem.value = '';
  wanted = columns;
  try {
    const got = await readPoints(props.notebook.id, content.value!, columns);
    if (wanted !== columns) return; // others were chosen meanwhile
    table.value = got;
    run.value = 1;
  } catch (e) {
    if (wanted !== columns) return;
    table.value = undefined;
    problem.value = e instanceof Error ? e.message : String(e);
  }
}
function lookAt() {
  content.value = new Blob([text.value]);
  void look();
}
async function choose(e: Event) {
  content.value = (e.target as HTMLInputElement).files?.[0];
  if (content.value) await look();
}
function column(name: (typeof names)[number], value: string) {
  const { volume, reading, temperature } = table.value!;
  const now = wanted === guess ? { volume, reading, temperature } : wanted;
  void look({ ...now, [name]: Number(value) });
}
async function write() {
  busy.value = true;
  const why = await props.bench.points(open.value || '', good.value);
  busy.value = false;
  if (why === undefined) emit('close');
  else problem.value = why;
}
</script>

<template>
  <AppDialog :title="say('points.title')" :typed="text !== ''" @close="emit('close')">
    <div class="grid gap-3">
      <p class="text-sm text-quiet">{{ say('points.what') }}</p>
      <label class="label" for="points-text">{{ say('points.paste') }}</label>
      <textarea id="points-text" v-model="text" class="field figure py-2" rows="4" maxlength="200000"></textarea>
      <div class="flex flex-wrap gap-2">
        <button type="button" class="button" :disabled="!text.trim()" @click="lookAt">
          {{ say('readings.look') }}
        </button>
        <label class="button cursor-pointer focus-within:border-accent">
          {{ say('readings.file') }}
          <input type="file" accept=".csv,.tsv,.txt" class="sr-only" @change="choose" />
        </label>
      </div>
      <template v-if="table">
        <div class="grid grid-cols-3 gap-2">
          <label v-for="n in names" :key="n" class="label grid gap-1">
            {{ say(`points.column.${n}`) }}
            <select
              class="field"
              :value="table[n]"
              :data-test="'column-' + n"
              @change="(e) => column(n, (e.target as HTMLSelectElement).value)"
            >
              <option v-if="n === 'temperature'" :value="-1">{{ say('points.noColumn') }}</option>
              <option v-for="(h, i) in table.heads" :key="i" :value="i">{{ h }}</option>
            </select>
          </label>
        </div>
        <p v-if="table.otherUnit" class="font-semibold text-rough">{{ table.otherUnit }}</p>
        <p v-if="table.comments" class="text-sm text-quiet">{{ say('points.comments', {}, table.comments) }}</p>
        <fieldset v-if="table.runs > 1" class="grid gap-1" data-test="runs">
          <legend class="font-semibold text-rough">{{ say('points.runs', {}, table.runs) }}</legend>
          <label v-for="n in table.runs" :key="n" class="flex min-h-11 items-center gap-2">
            <input v-model="run" type="radio" name="run" class="size-5 accent-accent" :value="n" />
            {{ say('points.run', { number: n, from: table.rows.find((r) => r.run === n)?.line ?? '' }) }}
          </label>
        </fieldset>
        <table class="w-full text-left text-sm" data-test="points">
          <tbody>
            <tr v-for="r in rows.slice(0, first)" :key="r.line" class="border-t border-hair">
              <td class="p-1 text-quiet">{{ r.line }}</td>
              <td class="figure p-1">{{ r.burette }}</td>
              <td class="figure p-1">{{ r.shown }}</td>
              <td class="figure p-1">{{ r.temperature }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="rows.length > first" class="text-sm text-quiet">… {{ rows.length }}</p>
        <ul v-if="bad.length" class="max-h-40 list-disc overflow-y-auto pl-5 text-sm" data-test="point-faults">
          <li v-for="r in bad.slice(0, 100)" :key="r.line" :class="r.fault ? 'font-semibold text-alarm' : 'text-rough'">
            {{ say('readings.line', { line: r.line, fault: r.fault || r.odd || '' }) }}
          </li>
        </ul>
      </template>
      <p v-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
      <button v-if="good.length" type="button" class="button-main" :disabled="busy" @click="write">
        {{ say('points.write', {}, good.length) }} {{ say(open ? 'points.toOpen' : 'points.asRun') }}
      </button>
    </div>
  </AppDialog>
</template>
