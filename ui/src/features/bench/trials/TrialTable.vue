<script setup lang="ts">
// The record: every reading as it was written, corrections struck through.
import { computed, ref } from 'vue';
import type { Notebook, Trial } from '@/api/client';
import TrialRow from '@/features/bench/trials/TrialRow.vue';
import type { Place } from '@/notebook/useBench';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; actions: boolean }>();

// Of a long notebook the last trials are shown, and more on request.
const step = 30;
const most = ref(step);
const hidden = computed(() => Math.max(0, props.notebook.sheet.trials.length - most.value));
const shown = computed(() => props.notebook.sheet.trials.slice(hidden.value));
defineEmits<{
  correct: [place: Place];
  belongs: [trial: Trial, sample: string];
  aside: [trial: Trial];
  restore: [trial: Trial];
  withdraw: [trial: Trial];
}>();
</script>

<template>
  <p v-if="hidden" class="mb-2">
    <button type="button" class="button w-full" @click="most += 4 * step">
      {{ say('bench.earlier', {}, hidden) }}
    </button>
  </p>
  <table class="w-full border-collapse text-left">
    <thead>
      <tr class="border-b-2 border-quiet text-sm">
        <th scope="col" class="py-2 pr-2">{{ say('bench.trial') }}</th>
        <th v-for="k in ['start', 'end', 'titre'] as const" :key="k" scope="col" class="px-1 py-2 text-right">
          {{ say(`bench.${k}`) }}<span class="font-normal"> / {{ notebook.sheet.units.volume }}</span>
        </th>
      </tr>
    </thead>
    <TrialRow
      v-for="t in shown"
      :key="t.id"
      :t="t"
      :unit="notebook.sheet.units.volume"
      :people="notebook.people"
      :actions="actions"
      :samples="notebook.sheet.setting.samples"
      @correct="(place) => $emit('correct', place)"
      @belongs="(trial, sample) => $emit('belongs', trial, sample)"
      @aside="(trial) => $emit('aside', trial)"
      @restore="(trial) => $emit('restore', trial)"
      @withdraw="(trial) => $emit('withdraw', trial)"
    />
  </table>
</template>
