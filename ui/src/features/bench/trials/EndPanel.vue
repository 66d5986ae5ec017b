<script setup lang="ts">
// After the end: which reading is the end where some were noted before further drops.
// Evidence, not a verdict.
import { computed } from 'vue';
import type { Trial } from '@/api/client';
import { endsOf } from '@/features/bench/dialogs/useChoices';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import { say } from '@/words';

const props = defineProps<{ trial: Trial }>();
defineEmits<{ take: [text: string] }>();
const choices = computed(() => endsOf(props.trial));
</script>

<template>
  <section class="panel border-l-8 border-l-end p-3" :aria-label="say('bench.endOf', { trial: trial.name })">
    <h2 class="font-semibold">{{ say('bench.endOf', { trial: trial.name }) }}</h2>
    <p class="mt-1 text-sm text-quiet">{{ say('bench.whichEnd') }}</p>
    <ChoiceGroup
      class="figure mt-1 text-lg"
      :label="say('bench.whichEnd')"
      :options="choices.map((value) => ({ value, text: value }))"
      :now="trial.end!.text"
      @choose="(text) => trial.end!.text !== text && $emit('take', text)"
    />
  </section>
</template>
