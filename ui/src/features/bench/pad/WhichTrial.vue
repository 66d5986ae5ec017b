<script setup lang="ts">
// Of several trials that are open at the same time the one that is read.
import type { Schemas } from '@/api/client';
import { say } from '@/words';

defineProps<{ opened: Schemas['Expect'][]; nameOf: (id?: string) => string }>();
const emit = defineEmits<{ chosen: [] }>();
const chosen = defineModel<string>({ required: true });
</script>

<template>
  <div v-if="opened.length > 1" class="mt-1 flex items-center gap-2" data-test="which">
    <label for="which-trial" class="label">{{ say('bench.which') }}</label>
    <select id="which-trial" v-model="chosen" class="field" @change="emit('chosen')">
      <option v-for="e in opened" :key="e.trial" :value="e.trial">{{ nameOf(e.trial) }}</option>
    </select>
  </div>
</template>
