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
import { notebookStations } from '@/features/notebook/stations';
import StationLine from '@/shared/StationLine.vue';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
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
const stations = computed(() => {
  const n = notebook.value;
  if (!n) return [];
  // A copy that an older page kept on this device says nothing of them.
  const stands = n.sheet.stands as typeof n.sheet.stands | undefined;
  return notebookStations({
    id: props.id,
    class: n.classId,
    practical: n.practical.id,
    bench: n.sheet.stageText,
    work: stands?.work,
    result: stands?.result,
    handedIn: n.handedIn?.at,
    due: n.due,
    marked: n.marked,
  });
});
const upTo = computed(() => {
  const n = notebook.value;
  if (n?.marked) return 'marks';
  if (n?.handedIn) return 'report';
  return n?.sheet.done ? 'work' : 'bench';
});
</script>

<template>
  <div v-if="notebook">
    <div class="sm:short:grid sm:short:grid-cols-[minmax(0,2fr)_minmax(0,3fr)] sm:short:items-center sm:short:gap-x-3">
      <div class="no-print mb-2 flex min-w-0 items-center gap-2 short:mb-1">
        <div class="min-w-0 grow">
          <h1 class="truncate text-xl leading-tight font-bold max-sm:text-base" :title="notebook.practical.title">
            {{ notebook.practical.title }}
          </h1>
          <p class="truncate text-sm text-quiet short:hidden">{{ notebook.student }} · {{ notebook.class }}</p>
        </div>
        <HandUp v-if="notebook.mayWrite && notebook.role === 'student'" :notebook="notebook" class="shrink-0" />
        <RouterLink :to="{ name: 'journal', params: { id } }" class="link shrink-0 text-sm">{{
          say('app.journal')
        }}</RouterLink>
        <SendState v-if="notebook.mayWrite" class="shrink-0" />
      </div>
      <StationLine
        :label="notebook.practical.title"
        :stations="stations"
        :at="String(route.name)"
        :up-to="upTo"
        brief
      />
    </div>
    <LessonBar :notebook="notebook" />
    <HeldBack :id="notebook.id" :title="notebook.practical.title" />
    <slot :notebook="notebook" :whole="whole" :stuck="stuck" />
  </div>
  <Trouble v-else-if="error" :error="error" @again="refetch()" />
  <Waiting v-else />
</template>
