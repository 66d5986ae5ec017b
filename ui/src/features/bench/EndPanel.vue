<script setup lang="ts">
// After the end: how deep the colour was, and which reading is the end where
// some were noted before further drops. Evidence, not a verdict.
import { computed } from 'vue';
import type { Notebook, Trial } from '@/api/client';

const props = defineProps<{ notebook: Notebook; trial: Trial }>();
defineEmits<{ colour: [value: string]; take: [text: string] }>();
const colours = ['pale', 'deep', 'fading'] as const;
const choices = computed(() => {
  const noted = (props.trial.provisional ?? []).map((r) => r.text);
  return [...new Set([...noted, ...(props.trial.struck.end ?? []).map((s) => s.text), props.trial.end!.text])];
});
</script>

<template>
  <section class="panel border-l-8 !border-l-end p-3" :aria-label="$t('bench.colour')">
    <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
      <h2 class="font-semibold">{{ $t('bench.endOf', { trial: notebook.sheet.trials[trial.id]?.name }) }}</h2>
      <div class="grid grow grid-cols-3 gap-2" role="group" :aria-label="$t('bench.colour')">
        <button
          v-for="c in colours"
          :key="c"
          type="button"
          class="button !px-1"
          :class="trial.endColour === c && '!border-accent bg-tint'"
          :aria-pressed="trial.endColour === c"
          @click="$emit('colour', c)"
        >
          {{ $t('bench.colours.' + c) }}
        </button>
      </div>
    </div>
    <template v-if="trial.provisional?.length">
      <p class="mt-2 text-sm text-quiet">{{ $t('bench.whichEnd') }}</p>
      <div class="mt-1 flex flex-wrap gap-2">
        <button
          v-for="text in choices"
          :key="text"
          type="button"
          class="button figure !px-3 text-lg"
          :class="trial.end!.text === text && '!border-accent bg-tint'"
          :aria-pressed="trial.end!.text === text"
          @click="trial.end!.text !== text && $emit('take', text)"
        >
          {{ text }}
        </button>
      </div>
    </template>
  </section>
</template>
