<script setup lang="ts">
// Where the uncertainty comes from, as bars.
import type { Schemas } from '@/api/client';
import { say } from '@/words';

defineProps<{ uncertainty: Schemas['Uncertainty'] }>();
</script>

<template>
  <section class="sheet">
    <h2 class="text-xl font-bold">{{ say('result.sure') }}</h2>
    <p class="mb-1 text-lg" data-test="uncertainty">{{ uncertainty.sentence }}</p>
    <p class="mb-3 font-semibold">{{ uncertainty.improve }}</p>
    <ul class="grid gap-2">
      <li v-for="bar in uncertainty.bars" :key="bar.name" class="grid items-center gap-x-3 sm:grid-cols-[17rem_1fr]">
        <span>{{ bar.name }}</span>
        <span class="flex items-center gap-2">
          <span class="h-5 grow rounded bg-well" aria-hidden="true">
            <span
              class="block h-5 min-w-0.5 rounded bg-accent"
              :style="{ width: `${Math.max(0.4, 100 * bar.share)}%` }"
            />
          </span>
          <span class="figure w-52 text-sm">{{ bar.text }}</span>
        </span>
      </li>
    </ul>
  </section>
</template>
