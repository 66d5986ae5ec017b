<script setup lang="ts">
// After the end: how deep the colour was, and which reading is the end where
// some were noted before further drops. Evidence, not a verdict.
import { computed } from 'vue';
import type { Trial } from '@/api/client';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import { say } from '@/words';

const props = defineProps<{ trial: Trial }>();
defineEmits<{ colour: [value: string]; take: [text: string] }>();
const colours = ['pale', 'deep', 'fading'] as const;
const choices = computed(() => {
  const noted = (props.trial.provisional ?? []).map((r) => r.text);
  return [...new Set([...noted, ...(props.trial.struck.end ?? []).map((s) => s.text), props.trial.end!.text])];
});
</script>

<template>
  <section class="panel border-l-8 border-l-end p-3" :aria-label="say('bench.colour')">
    <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
      <h2 class="font-semibold">{{ say('bench.endOf', { trial: trial.name }) }}</h2>
      <ChoiceGroup
        wide
        :label="say('bench.colour')"
        :options="colours.map((value) => ({ value, text: say(`bench.colours.${value}`) }))"
        :now="trial.endColour"
        @choose="(c) => $emit('colour', c)"
      />
    </div>
    <template v-if="trial.provisional?.length">
      <p class="mt-2 text-sm text-quiet">{{ say('bench.whichEnd') }}</p>
      <ChoiceGroup
        class="figure mt-1 text-lg"
        :label="say('bench.whichEnd')"
        :options="choices.map((value) => ({ value, text: value }))"
        :now="trial.end!.text"
        @choose="(text) => trial.end!.text !== text && $emit('take', text)"
      />
    </template>
  </section>
</template>
