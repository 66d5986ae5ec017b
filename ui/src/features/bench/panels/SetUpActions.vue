<script setup lang="ts">
// What is written down of the set-up, at any time: before the first reading and after it.
import type { Notebook } from '@/api/client';
import type { Asking } from '@/notebook/asking';
import type { Timed } from '@/notebook/useBench';
import { say } from '@/words';

defineProps<{
  notebook: Notebook;
  /** What is being waited for, and how many seconds are left. */
  timing: Timed | '';
  left: number;
}>();
const emit = defineEmits<{ ask: [what: Asking]; start: [what: Timed, seconds: number] }>();
</script>

<template>
  <button v-if="!notebook.sheet.setting.madeOnly" type="button" class="button" @click="emit('ask', { what: 'leak' })">
    {{ say('bench.leak') }}
  </button>
  <button type="button" class="button" @click="emit('ask', { what: 'weigh' })">{{ say('bench.weigh') }}</button>
  <template v-if="notebook.sheet.probe">
    <button type="button" class="button" @click="emit('ask', { what: 'calibrate' })">
      {{ say('calibrate.title') }}
    </button>
    <button type="button" class="button" @click="emit('ask', { what: 'points' })">{{ say('points.title') }}</button>
  </template>
  <button type="button" class="button" @click="emit('ask', { what: 'prepare' })">{{ say('bench.prepare') }}</button>
  <button
    v-for="w in ['glass', 'solution-made', 'aliquot', 'batch'] as const"
    :key="w"
    type="button"
    class="button"
    @click="emit('ask', { what: w })"
  >
    {{ say(`bench.words.${w}`) }}
  </button>
  <button type="button" class="button" @click="emit('start', 'stirring', 60 * notebook.sheet.setting.stir)">
    {{ timing === 'stirring' ? `${Math.ceil(left)} s` : say('bench.stir', { minutes: notebook.sheet.setting.stir }) }}
  </button>
</template>
