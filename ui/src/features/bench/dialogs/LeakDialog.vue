<script setup lang="ts">
// A leaking tap has its own path: reseat it and wait again, or change the burette.
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

defineProps<{ problem: string }>();
const emit = defineEmits<{ done: [value: 'seen' | 'reseated' | 'changed']; close: [] }>();
</script>

<template>
  <AppDialog :title="say('bench.leak')" @close="emit('close')">
    <p v-if="problem" class="mb-3 font-semibold text-alarm" role="alert">{{ problem }}</p>
    <p class="mb-3">{{ say('dialog.leakText') }}</p>
    <div class="grid gap-2">
      <button
        v-for="v in ['seen', 'reseated', 'changed'] as const"
        :key="v"
        type="button"
        class="button w-full justify-start"
        @click="emit('done', v)"
      >
        {{ say(`dialog.leaks.${v}`) }}
      </button>
    </div>
  </AppDialog>
</template>
