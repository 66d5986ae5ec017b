<script setup lang="ts">
import type { Notebook } from '@/api/client';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

defineProps<{ notebook: Notebook }>();
const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <AppDialog :title="say('bench.cautions')" @close="emit('close')">
    <ul class="mb-3 grid list-disc gap-1.5 pl-5 text-lg">
      <li v-for="c in notebook.sheet.setting.cautions" :key="c">{{ c }}</li>
    </ul>
    <p class="font-semibold">{{ say('bench.localRules') }}</p>
  </AppDialog>
</template>
