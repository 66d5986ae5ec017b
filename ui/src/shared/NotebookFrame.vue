<script setup lang="ts">
// The head that a notebook's views share, and the waiting and failing states.
import { onUnmounted, watch } from 'vue';
import type { Notebook } from '@/api/client';
import { useMe, useNotebook } from '@/api/queries';
import { useJudged } from '@/notebook/useJudged';
import Trouble from '@/shared/Trouble.vue';
import { say, speak } from '@/words';

const props = defineProps<{ id: string }>();
defineSlots<{ default(props: { notebook: Notebook }): unknown }>();
const { data: known, error, refetch } = useNotebook(() => props.id);
const notebook = useJudged(known);
const { data: me } = useMe();
// Inside a notebook the words are its own; outside, the reader's.
watch(
  () => notebook.value?.sheet.style.words,
  (words) => words && speak(words),
  { immediate: true },
);
onUnmounted(() => speak(me.value?.preferences.words || 'titre'));
const tabs = ['bench', 'work', 'result', 'report', 'journal'] as const;
</script>

<template>
  <div v-if="notebook">
    <div class="no-print mb-3 flex flex-wrap items-end justify-between gap-x-6 gap-y-1">
      <div>
        <h1 class="text-xl leading-tight font-bold">{{ notebook.practical.title }}</h1>
        <p class="text-sm text-quiet">{{ notebook.student }} · {{ notebook.class }}</p>
      </div>
      <nav class="flex gap-1" :aria-label="notebook.practical.title">
        <RouterLink v-for="tab in tabs" :key="tab" :to="{ name: tab, params: { id } }" class="tab">{{
          say(`app.${tab}`)
        }}</RouterLink>
      </nav>
    </div>
    <slot :notebook="notebook" />
  </div>
  <Trouble v-else-if="error" :error="error" @again="refetch()" />
  <p v-else class="p-6 text-quiet" role="status">{{ say('common.loading') }}</p>
</template>
