<script setup lang="ts">
// The head that a notebook's views share, and the waiting and failing states.
import { watch } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Notebook } from '@/api/client';
import { useNotebook } from '@/api/queries';
import { useJudged } from '@/record/useJudged';
import Trouble from '@/shared/Trouble.vue';

const props = defineProps<{ id: string }>();
defineSlots<{ default(props: { notebook: Notebook }): unknown }>();
const { data: known, error, refetch } = useNotebook(() => props.id);
const notebook = useJudged(known);
const { locale } = useI18n();
watch(
  () => notebook.value?.sheet.style.words,
  (words) => {
    if (words) locale.value = words;
  },
  { immediate: true },
);
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
        <RouterLink
          v-for="tab in tabs"
          :key="tab"
          :to="{ name: tab, params: { id } }"
          class="border-b-4 border-transparent px-3 py-3 font-semibold hover:border-hair"
          exact-active-class="!border-accent"
          >{{ $t('app.' + tab) }}</RouterLink
        >
      </nav>
    </div>
    <slot :notebook="notebook" />
  </div>
  <Trouble v-else-if="error" :error="error" @again="refetch()" />
  <p v-else class="p-6 text-quiet" role="status">{{ $t('common.loading') }}</p>
</template>
