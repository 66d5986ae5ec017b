<script setup lang="ts">
// The record: every reading as it was written, corrections struck through.
import type { Notebook, Trial } from '@/api/client';
import TrialRow from '@/features/bench/TrialRow.vue';
import type { Place } from '@/notebook/useBench';
import { say } from '@/words';

defineProps<{ notebook: Notebook; actions: boolean }>();
defineEmits<{ correct: [place: Place]; aside: [trial: Trial]; restore: [trial: Trial]; withdraw: [trial: Trial] }>();
</script>

<template>
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
      v-for="t in notebook.sheet.trials"
      :key="t.id"
      :t="t"
      :unit="notebook.sheet.units.volume"
      :people="notebook.people"
      :actions="actions"
      @correct="(place) => $emit('correct', place)"
      @aside="(trial) => $emit('aside', trial)"
      @restore="(trial) => $emit('restore', trial)"
      @withdraw="(trial) => $emit('withdraw', trial)"
    />
  </table>
</template>
