<script setup lang="ts">
// What the probe shows in each buffer: before the first run, or afterwards to see whether
// it has drifted.
import { computed, ref } from 'vue';
import type { Notebook } from '@/api/client';
import { useDraft } from '@/device/drafts';
import type { Bench } from '@/notebook/useBench';
import AppDialog from '@/shared/AppDialog.vue';
import { beginAt } from '@/shared/focus';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; bench: Bench; draft: string }>();
const emit = defineEmits<{ close: [] }>();
const probe = computed(() => props.notebook.sheet.probe!);
const values = useDraft(props.draft, {
  unit: probe.value.shows as 'pH' | 'mV',
  afterwards: false,
  temperature: '',
  rows: [
    ...(probe.value.buffers.length ? probe.value.buffers : ['']).map((buffer) => ({ buffer, shown: '' })),
    ...(probe.value.buffers.length ? [{ buffer: '', shown: '' }] : []),
  ],
});
const problem = ref('');
const busy = ref(false);
const first = ref<HTMLInputElement[]>();
beginAt(() => first.value?.[0]);
const filled = computed(() => values.value.rows.filter((r) => r.buffer.trim() && r.shown.trim()));
async function write() {
  if (!filled.value.length || busy.value) return;
  busy.value = true;
  const { unit, afterwards, temperature } = values.value;
  const why = await props.bench.calibrate(
    filled.value.map(({ buffer, shown }) => ({
      buffer: buffer.trim(),
      shown: shown.trim(),
      unit,
      ...(temperature.trim() && { temperature: temperature.trim() }),
      ...(afterwards && { afterwards: true }),
    })),
  );
  busy.value = false;
  problem.value = why ?? '';
  if (why !== undefined) return;
  values.value.rows.forEach((r) => (r.shown = ''));
  emit('close');
}
</script>

<template>
  <AppDialog :title="say('calibrate.title')" :typed="values.rows.some((r) => r.shown)" @close="emit('close')">
    <form class="grid gap-3" @submit.prevent="write">
      <p class="text-sm text-quiet">{{ say('calibrate.what') }}</p>
      <p v-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
      <div class="flex flex-wrap gap-3">
        <ChoiceGroup
          :label="say('calibrate.unit')"
          :options="[
            { value: 'pH', text: 'pH' },
            { value: 'mV', text: 'mV' },
          ]"
          :now="values.unit"
          @choose="(u) => (values.unit = u)"
        />
        <ChoiceGroup
          :label="say('calibrate.when')"
          :options="[
            { value: 'before', text: say('calibrate.before') },
            { value: 'after', text: say('calibrate.after') },
          ]"
          :now="values.afterwards ? 'after' : 'before'"
          @choose="(w) => (values.afterwards = w === 'after')"
        />
      </div>
      <div class="grid grid-cols-2 gap-2">
        <span class="label">{{ say('calibrate.buffer') }}</span>
        <span class="label">{{ say('calibrate.shown', { unit: values.unit }) }}</span>
        <template v-for="(r, i) in values.rows" :key="i">
          <input
            v-model="r.buffer"
            class="field figure text-right text-xl"
            inputmode="decimal"
            maxlength="24"
            :aria-label="say('calibrate.buffer')"
          />
          <input
            ref="first"
            v-model="r.shown"
            class="field figure text-right text-xl"
            inputmode="decimal"
            maxlength="24"
            :aria-label="say('calibrate.in', { buffer: r.buffer })"
          />
        </template>
      </div>
      <label class="label grid gap-1">
        {{ say('points.temperature') }}
        <input v-model="values.temperature" class="field figure text-right" inputmode="decimal" maxlength="24" />
      </label>
      <button type="submit" class="button-main" :disabled="!filled.length || busy">{{ say('dialog.keepText') }}</button>
    </form>
  </AppDialog>
</template>
