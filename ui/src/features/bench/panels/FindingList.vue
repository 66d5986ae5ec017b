<script setup lang="ts">
import { ExclamationTriangleIcon, EyeIcon, InformationCircleIcon } from '@heroicons/vue/24/outline';
import type { Notebook } from '@/api/client';

defineProps<{ notebook: Notebook }>();
const icons = { warning: ExclamationTriangleIcon, check: EyeIcon, note: InformationCircleIcon };
const colours = { warning: 'text-alarm', check: 'text-rough', note: 'text-quiet' };
</script>

<template>
  <ul v-if="notebook.sheet.findings.length" class="grid gap-2">
    <li v-for="(f, i) in notebook.sheet.findings" :key="i" class="flex gap-2 rounded-glass bg-well p-2.5">
      <component :is="icons[f.severity]" class="size-6 shrink-0" :class="colours[f.severity]" aria-hidden="true" />
      <p>
        <strong v-if="f.place">{{ f.place }}: </strong>{{ f.text }}
      </p>
    </li>
  </ul>
</template>
