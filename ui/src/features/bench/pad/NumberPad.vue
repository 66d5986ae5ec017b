<script setup lang="ts">
// The keys for a thumb. They leave the focus where it is: what is typed goes into the field
// that has it.
import { BackspaceIcon } from '@heroicons/vue/24/outline';
import { say } from '@/words';

defineProps<{ closed: boolean }>();
defineEmits<{ type: [digit: string]; back: [] }>();
const digits = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '0', '.'];
</script>

<template>
  <div class="grid grid-cols-3 gap-1.5">
    <button
      v-for="d in digits"
      :key="d"
      type="button"
      class="button figure min-h-11 text-[1.5rem] lg:min-h-12 short:min-h-9"
      tabindex="-1"
      :disabled="closed"
      @mousedown.prevent
      @click="$emit('type', d)"
    >
      {{ d }}
    </button>
    <button
      type="button"
      class="button min-h-11 lg:min-h-12 short:min-h-9"
      tabindex="-1"
      :disabled="closed"
      @mousedown.prevent
      @click="$emit('back')"
    >
      <BackspaceIcon class="size-8" aria-hidden="true" /><span class="sr-only">{{ say('bench.back') }}</span>
    </button>
  </div>
</template>
