<script setup lang="ts">
// What may be measured at a vessel in the place of what the practical gives, and was.
import type { Schemas } from '@/api/client';
import type { Asking } from '@/notebook/asking';
import { say } from '@/words';

defineProps<{ values: Schemas['MeasuredValue'][]; may: boolean }>();
const emit = defineEmits<{ ask: [what: Asking] }>();
</script>

<template>
  <template v-for="v in values" :key="v.what + v.step">
    <button
      v-if="may"
      type="button"
      class="button button-low mt-1 w-full text-sm"
      data-test="measure"
      @click="emit('ask', { what: 'measured', value: v })"
    >
      <span class="grid">
        {{ v.written ? v.name : say('bench.measure', { name: v.name }) }}
        <span v-if="v.written" class="figure">{{ v.written }} {{ v.unitText }}</span>
      </span>
    </button>
    <span v-else-if="v.written" class="figure">{{ v.name }}: {{ v.written }} {{ v.unitText }}</span>
  </template>
</template>
