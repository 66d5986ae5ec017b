<script setup lang="ts">
// A practical in a class: which it is, and the line of its stations. Students have the line of their
// notebook instead.
import { computed, watch } from 'vue';
import { useRoute } from 'vue-router';
import { useShelf } from '@/api/queries';
import { useStations } from '@/api/today';
import { notebookStations } from '@/features/notebook/stations';
import { stationNames, toStation } from '@/features/practical/stations';
import { useSession } from '@/session/session';
import StationLine from '@/shared/StationLine.vue';
import { withMoment } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string }>();
const route = useRoute();
const session = useSession();
const mine = computed(() => session.person?.classes.find((c) => c.class === props.classId));
const teaches = computed(() => mine.value !== undefined && mine.value.role !== 'student');
const where = computed(() => ({ class: props.classId, practical: props.practical }));
const { data: line, refetch } = useStations(where, teaches);
// What was done at a station shows in its state.
watch(
  () => route.fullPath,
  () => teaches.value && void refetch(),
);
const at = computed(() => String(route.meta.station ?? ''));
const stations = computed(() =>
  stationNames.map((key) => {
    const s = line.value?.stations.find((s) => s.station === key);
    return {
      key,
      name: say(`stations.${key}`),
      text: s?.text && withMoment(s.text, s.at),
      needs: s?.needs,
      to: toStation(key, where.value),
    };
  }),
);
// A student's line is that of their notebook, once it is begun.
const { data: shelf } = useShelf(() => !teaches.value);
const own = computed(() => {
  if (teaches.value) return undefined;
  const item = shelf.value?.shelves
    .find((s) => s.class === props.classId)
    ?.practicals.find((p) => p.practical === props.practical);
  const n = item?.notebooks.find((n) => n.id && !n.partner) ?? item?.notebooks.find((n) => n.id);
  return n?.id
    ? notebookStations({
        id: n.id,
        class: props.classId,
        practical: props.practical,
        bench: n.stageText,
        handedIn: n.returned ? undefined : n.handedIn,
        due: item?.times.due,
        marked: n.marked,
      })
    : undefined;
});
watch(
  () => line.value && `${say(route.meta.title)}: ${line.value.title}`,
  (title) => title && (document.title = `${title} · Exact Flask`),
  { immediate: true },
);
</script>

<template>
  <div>
    <header v-if="teaches && at" class="no-print">
      <h1 class="mb-3 flex min-h-7 flex-wrap gap-x-2 text-xl leading-tight max-sm:mb-2 max-sm:text-base">
        <RouterLink :to="{ name: 'class', params: { classId } }" class="text-quiet no-underline hover:underline">{{
          mine?.name
        }}</RouterLink>
        <span class="text-quiet" aria-hidden="true">›</span>
        <span class="min-w-0 font-bold wrap-anywhere">{{ line?.title }}</span>
      </h1>
      <StationLine :label="say('stations.label')" :stations="stations" :at="at" :up-to="line?.here" />
      <p v-if="line?.broken" class="mb-3 font-semibold text-alarm" role="alert">{{ line.broken }}</p>
    </header>
    <StationLine v-if="own" :label="say('stations.label')" :stations="own" at="before" />
    <RouterView />
  </div>
</template>
