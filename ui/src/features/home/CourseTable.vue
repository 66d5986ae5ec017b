<script setup lang="ts">
// The practicals of a class, each with its line of stations in small.
import type { Schemas } from '@/api/client';
import { stationNames, toStation } from '@/features/practical/stations';
import { withMoment } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{ of: Schemas['ClassCourse'] }>();
const to = (l: Schemas['CourseLine'], station = l.here) =>
  toStation(station, { class: props.of.class, practical: l.practical });
const part = (l: Schemas['CourseLine']) => (stationNames.indexOf(l.here) / (stationNames.length - 1)) * 100;
</script>

<template>
  <ul data-test="course">
    <li
      v-for="l in of.practicals"
      :key="l.practical"
      class="row grid min-h-10 items-center gap-x-4 py-1 sm:grid-cols-[minmax(0,18rem)_minmax(8rem,24rem)_minmax(0,1fr)]"
    >
      <RouterLink
        :to="to(l, 'plan')"
        class="py-1 leading-tight font-semibold wrap-anywhere no-underline hover:underline"
        >{{ l.title }}</RouterLink
      >
      <span class="course-scale max-sm:hidden" aria-hidden="true">
        <span class="course-filled" :style="{ width: `${part(l)}%` }"></span>
      </span>
      <span v-if="l.broken" class="font-semibold text-alarm">{{ l.broken }}</span>
      <RouterLink
        v-else
        :to="to(l)"
        class="py-1 text-quiet"
        :class="l.needs && 'font-semibold text-rough'"
        data-test="stands"
      >
        {{ say(`stations.${l.here}`) }}<template v-if="l.text">: {{ withMoment(l.text, l.at) }}</template>
      </RouterLink>
    </li>
  </ul>
</template>
