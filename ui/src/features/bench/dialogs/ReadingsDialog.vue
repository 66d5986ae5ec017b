<script setup lang="ts">
// Readings out of a file or a paste: looked at first, then written down one by one.
import { computed, ref } from 'vue';
import type { Notebook, Schemas } from '@/api/client';
import { readReadings } from '@/api/reports';
import type { Bench } from '@/notebook/useBench';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; bench: Bench }>();
const emit = defineEmits<{ close: [] }>();
const text = ref('');
const rows = ref<Schemas['ReadRow'][]>();
const problem = ref('');
const busy = ref(false);
const good = computed(() => (rows.value ?? []).filter((r) => !r.fault));

async function look(content: Blob) {
  problem.value = '';
  rows.value = undefined;
  try {
    rows.value = await readReadings(props.notebook.id, content);
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e);
  }
}
const lookAt = () => look(new Blob([text.value]));
async function choose(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0];
  if (file) await look(file);
}
async function write() {
  busy.value = true;
  for (const row of good.value) {
    const why = await props.bench.run(row.type, row.start, row.end);
    if (why !== undefined) {
      problem.value = why;
      busy.value = false;
      return;
    }
  }
  emit('close');
}
</script>

<template>
  <AppDialog :title="say('readings.title')" :typed="text !== ''" @close="emit('close')">
    <div class="grid gap-3">
      <p class="text-sm text-quiet">{{ say('readings.what') }}</p>
      <label class="label" for="readings-text">{{ say('readings.paste') }}</label>
      <textarea id="readings-text" v-model="text" class="field figure py-2" rows="5" maxlength="50000"></textarea>
      <div class="flex flex-wrap gap-2">
        <button type="button" class="button" :disabled="!text.trim()" @click="lookAt">
          {{ say('readings.look') }}
        </button>
        <label class="button cursor-pointer focus-within:border-accent">
          {{ say('readings.file') }}
          <input type="file" accept=".csv,.tsv,.txt" class="sr-only" @change="choose" />
        </label>
      </div>
      <table v-if="rows" class="w-full text-left text-sm" data-test="readings">
        <tbody>
          <tr v-for="r in rows" :key="r.line" class="border-t border-hair">
            <td class="p-1">{{ say(`bench.types.${r.type}`) }}</td>
            <td class="figure p-1">{{ r.start }}</td>
            <td class="figure p-1">{{ r.end }}</td>
            <td class="p-1 font-semibold text-alarm">
              {{ r.fault && say('readings.line', { line: r.line, fault: r.fault }) }}
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
      <button v-if="good.length" type="button" class="button-main" :disabled="busy" @click="write">
        {{ say('readings.write', {}, good.length) }}
      </button>
    </div>
  </AppDialog>
</template>
