<script setup lang="ts">
// Under the trials: the mean titre with its trials, the concentration so far,
// and what the titres say about themselves.
import type { Notebook } from '@/api/client';
import { say } from '@/words';

defineProps<{ notebook: Notebook }>();
</script>

<template>
  <section
    v-if="notebook.sheet.soFar || notebook.sheet.remarks.length || notebook.bottle"
    class="sheet"
    :aria-label="say('bench.resultLine')"
    data-test="result-line"
  >
    <p v-if="notebook.sheet.soFar" class="text-lg font-semibold">
      {{ notebook.sheet.soFar }}
      <RouterLink
        v-if="notebook.sheet.answer"
        class="underline"
        :to="{ name: 'result', params: { id: notebook.id } }"
        >{{ say('bench.working') }}</RouterLink
      >
    </p>
    <p v-if="notebook.bottle" class="text-sm" :class="notebook.bottle.low ? 'font-semibold text-alarm' : 'text-quiet'">
      {{ notebook.bottle.text }}
    </p>
    <p v-for="n in notebook.sheet.remarks" :key="n" class="text-sm text-quiet">{{ n }}</p>
  </section>
</template>
