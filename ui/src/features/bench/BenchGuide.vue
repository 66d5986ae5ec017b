<script setup lang="ts">
// The first time at the bench: what is done here, in four lines, and away with it.
import { say, sayList } from '@/words';

defineEmits<{ seen: [] }>();
</script>

<template>
  <section class="panel border-l-8 border-l-accent p-3" :aria-label="say('guide.title')">
    <div class="flex items-start justify-between gap-3">
      <h2 class="font-semibold">{{ say('guide.title') }}</h2>
      <button type="button" class="button -mt-1 shrink-0" @click="$emit('seen')">{{ say('guide.skip') }}</button>
    </div>
    <ol class="mt-1 list-decimal pl-5">
      <li v-for="step in sayList('guide.steps')" :key="step">{{ step }}</li>
    </ol>
  </section>
</template>
