<script setup lang="ts">
// The line of stations: where one is on the way, drawn as a scale. Each station has its name and its
// state; the one that is open has the mark, one that needs somebody a sign beside its name.
import { computed } from 'vue';
import type { RouteLocationRaw } from 'vue-router';
import { say } from '@/words';

export type StationAt = {
  key: string;
  name: string;
  text?: string;
  needs?: boolean;
  to?: RouteLocationRaw; // none: not open yet
};
const props = defineProps<{ label: string; stations: StationAt[]; at: string; upTo?: string; brief?: boolean }>();

const place = (key?: string) => props.stations.findIndex((s) => s.key === key);
// As far as the work has come the scale is filled.
const filled = computed(() => (Math.max(place(props.upTo), 0) / props.stations.length) * 100);
const here = computed(() => props.stations.find((s) => s.key === props.at));
</script>

<template>
  <nav class="no-print stations" :class="brief && 'stations-brief'" :aria-label="label">
    <div class="stations-fill" :style="{ width: `${filled}%` }" aria-hidden="true"></div>
    <ul class="grid" :style="{ gridTemplateColumns: `repeat(${stations.length}, minmax(0, 1fr))` }">
      <li v-for="s in stations" :key="s.key" class="station" :class="s.key === at && 'station-here'">
        <component
          :is="s.to ? 'RouterLink' : 'span'"
          :to="s.to"
          class="station-name"
          :class="!s.to && 'text-quiet'"
          :aria-current="s.key === at ? 'page' : undefined"
          :data-station="s.key"
        >
          <span class="block font-bold max-sm:text-[0.72rem] short:text-[0.72rem]"
            >{{ s.name }}<span v-if="s.needs" class="ml-1 text-(color:--end)" aria-hidden="true">▸</span
            ><span v-if="s.needs" class="sr-only"> {{ say('stations.needs') }}</span></span
          >
          <span class="station-text block text-sm text-quiet max-md:sr-only">{{ s.text || '–' }}</span>
        </component>
      </li>
    </ul>
    <p v-if="here?.text && !brief" class="pt-1 text-sm text-quiet md:hidden" aria-hidden="true">{{ here.text }}</p>
  </nav>
</template>
