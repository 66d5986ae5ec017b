<script setup lang="ts">
// The head that a notebook's views share, and the waiting and failing states.
import { computed, onUnmounted, provide, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { Notebook } from '@/api/client';
import { useNotebook } from '@/notebook/notebooks';
import { noted } from '@/features/comments/noted';
import HandUp from '@/features/lesson/HandUp.vue';
import LessonBar from '@/features/lesson/LessonBar.vue';
import HeldBack from '@/features/bench/panels/HeldBack.vue';
import SendState from '@/features/bench/panels/SendState.vue';
import { useJudged } from '@/notebook/useJudged';
import Trouble from '@/shared/Trouble.vue';
import { say, speakHere } from '@/words';

const props = defineProps<{ id: string; brief?: boolean }>();
defineSlots<{ default(props: { notebook: Notebook; whole: boolean; stuck: boolean }): unknown }>();
const { data: known, error, refetch } = useNotebook(() => props.id);
const { shown: notebook, whole, stuck } = useJudged(known, () => props.brief);
provide(noted, notebook);
const route = useRoute();
const router = useRouter();
// Begun without the network, the server may know it under another id.
watch(
  () => notebook.value?.id,
  (id) => id && id !== props.id && void router.replace({ name: route.name, params: { id } }),
);
// Inside a notebook the words are its own; outside, the reader's.
watch(
  () => notebook.value?.sheet.style.words,
  (words) => words && speakHere(words),
  { immediate: true },
);
watch(
  () => notebook.value && `${say(route.meta.title)}: ${notebook.value.practical.title}, ${notebook.value.student}`,
  (title) => title && (document.title = `${title} · Exact Flask`),
  { immediate: true },
);
onUnmounted(() => speakHere());
const tabs = computed(() =>
  (['bench', 'work', 'result', 'report', 'marks', 'journal'] as const).filter(
    (t) => t !== 'marks' || notebook.value?.marked,
  ),
);
</script>

<template>
  <div v-if="notebook">
    <div
      class="no-print mb-2 flex flex-wrap items-center justify-between gap-x-6 short:mb-1 sm:short:flex-nowrap sm:short:gap-x-2"
    >
      <div class="flex min-w-0 grow items-center justify-between gap-2 max-md:w-full sm:short:w-auto">
        <div class="min-w-0">
          <h1 class="truncate text-xl leading-tight font-bold max-sm:text-base" :title="notebook.practical.title">
            {{ notebook.practical.title }}
          </h1>
          <p class="truncate text-sm text-quiet short:hidden">{{ notebook.student }} · {{ notebook.class }}</p>
        </div>
        <HandUp v-if="notebook.mayWrite && notebook.role === 'student'" :notebook="notebook" class="ml-auto shrink-0" />
        <SendState v-if="notebook.mayWrite" class="shrink-0" />
      </div>
      <nav
        class="flex gap-1 max-sm:w-full max-sm:justify-between max-sm:gap-0 max-[22.5rem]:flex-wrap"
        :class="tabs.length > 5 && 'max-sm:flex-wrap'"
        :aria-label="notebook.practical.title"
      >
        <RouterLink v-for="tab in tabs" :key="tab" :to="{ name: tab, params: { id } }" class="tab">{{
          say(`app.${tab}`)
        }}</RouterLink>
      </nav>
    </div>
    <LessonBar :notebook="notebook" />
    <HeldBack :id="notebook.id" :title="notebook.practical.title" />
    <slot :notebook="notebook" :whole="whole" :stuck="stuck" />
  </div>
  <Trouble v-else-if="error" :error="error" @again="refetch()" />
  <p v-else class="p-6 text-quiet" role="status">{{ say('common.loading') }}</p>
</template>
