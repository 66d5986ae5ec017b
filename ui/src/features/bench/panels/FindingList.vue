<script setup lang="ts">
// What should be looked at: the two that are most useful now, the others on request.
import { ExclamationTriangleIcon, EyeIcon, InformationCircleIcon } from '@heroicons/vue/24/outline';
import { computed, ref } from 'vue';
import type { Notebook } from '@/api/client';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
const icons = { warning: ExclamationTriangleIcon, check: EyeIcon, note: InformationCircleIcon };
const colours = { warning: 'text-alarm', check: 'text-rough', note: 'text-quiet' };
const all = ref(false);
const first = computed(() => props.notebook.sheet.foremost.map((i) => props.notebook.sheet.findings[i]!));
const rest = computed(() => props.notebook.sheet.findings.filter((f) => !first.value.includes(f)));
const shown = computed(() => (all.value ? [...first.value, ...rest.value] : first.value));
</script>

<template>
  <ul v-if="shown.length" class="grid gap-2">
    <li v-for="(f, i) in shown" :key="i" class="flex gap-2 rounded-glass bg-well p-2.5">
      <component :is="icons[f.severity]" class="size-6 shrink-0" :class="colours[f.severity]" aria-hidden="true" />
      <p>
        <strong v-if="f.place">{{ f.place }}: </strong>{{ f.text }}
      </p>
    </li>
  </ul>
  <button
    v-if="rest.length"
    type="button"
    class="mt-1 min-h-11 underline"
    :aria-expanded="all"
    data-test="more-findings"
    @click="all = !all"
  >
    {{ all ? say('bench.lookLess') : say('bench.lookMore', {}, rest.length) }}
  </button>
</template>
