<script setup lang="ts">
// What is to be done now, and where the notebook goes on to.
import type { Notebook } from '@/api/client';
import { say } from '@/words';

defineProps<{ notebook: Notebook }>();
</script>

<template>
  <div
    class="panel mb-2 flex h-[4.75rem] items-center gap-3 overflow-y-auto border-l-8 border-l-accent px-3 py-1.5 max-lg:h-24 short:mb-1 short:h-12 short:py-0"
    data-test="next-line"
  >
    <p class="grow text-base leading-snug font-semibold sm:text-xl short:text-base" aria-live="polite" data-test="next">
      {{ notebook.sheet.next.text }}
    </p>
    <RouterLink
      v-if="notebook.sheet.next.then"
      class="button-main shrink-0 px-3"
      :to="{ name: notebook.sheet.next.then, params: { id: notebook.id } }"
      data-test="then"
      >{{ say(`then.${notebook.sheet.next.then}`) }}</RouterLink
    >
  </div>
</template>
