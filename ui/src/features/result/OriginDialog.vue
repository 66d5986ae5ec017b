<script setup lang="ts">
// Where a figure comes from, and from there further back to the readings.
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import Figures from '@/features/result/Figures.vue';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const props = defineProps<{ answer: Schemas['Answer']; node: string }>();
const emit = defineEmits<{ close: [] }>();
const path = ref([props.node]);
const origin = computed(() => props.answer.origins[path.value.at(-1)!]);
</script>

<template>
  <AppDialog :title="say('result.from')" @close="emit('close')">
    <template v-if="origin">
      <h3 class="mb-1 text-lg font-bold">{{ origin.name }}</h3>
      <p class="mb-3">{{ origin.text }}</p>
      <Figures :tokens="origin.line" @from="(n) => n !== path.at(-1) && path.push(n)" />
      <p v-if="origin.line.some((t) => t.node && t.node !== path.at(-1))" class="mt-3 text-sm text-quiet">
        {{ say('result.inputs') }}
      </p>
      <button v-if="path.length > 1" type="button" class="button mt-3" @click="path.pop()">
        {{ say('result.back') }}
      </button>
    </template>
  </AppDialog>
</template>
