<script setup lang="ts">
// The criteria of a report, a line each, with what is proposed and what was awarded.
import { computed, ref } from 'vue';
import type { MarkLine } from '@/api/marking';
import { written } from '@/features/marking/marks';
import { say } from '@/words';

const props = defineProps<{ lines: MarkLine[]; at: number }>();
defineEmits<{ choose: [at: number] }>();
const list = ref<HTMLElement>();
const lost = computed(() => props.lines.map((l) => l.proposed !== undefined && l.proposed < l.most));
defineExpose({
  focus: () => list.value?.focus(),
  /** Brings a line into sight. */
  show: (i: number) => list.value?.children[i]?.scrollIntoView({ block: 'nearest' }),
});
</script>

<template>
  <ol
    ref="list"
    class="max-h-[calc(100dvh-17.5rem)] overflow-y-auto max-lg:max-h-[45dvh]"
    tabindex="0"
    :aria-label="say('marking.criteria')"
  >
    <li
      v-for="(l, i) in lines"
      :key="l.id"
      :data-criterion="l.id"
      :data-open="l.award?.marks === undefined || undefined"
    >
      <button
        type="button"
        class="print-keep grid min-h-[1.65rem] max-lg:min-h-9 w-full grid-cols-[1fr_auto_3.6rem] items-center gap-2 border-l-4 px-2 text-left text-sm"
        :class="[i === at ? 'border-accent bg-tint' : 'border-transparent', i % 2 && i !== at && 'bg-well/40']"
        :aria-current="i === at"
        tabindex="-1"
        @click="$emit('choose', i)"
      >
        <span class="min-w-0 truncate" :class="lost[i] && 'font-semibold'"
          >{{ l.title }}<span v-if="l.award?.comment" class="text-accent" :title="l.award.comment"> ✎</span></span
        >
        <span
          class="figure"
          :class="l.award?.marks !== undefined ? 'text-quiet' : lost[i] ? 'text-rough' : 'text-quiet'"
          :title="say('marking.proposed')"
          >{{ l.proposed === undefined ? '?' : written(l.proposed) }}</span
        >
        <span class="figure text-right" :class="l.award?.marks !== undefined && 'font-bold'">
          {{ l.award?.marks !== undefined ? written(l.award.marks) : '·'
          }}<span class="font-normal text-quiet">/{{ written(l.most) }}</span>
        </span>
      </button>
    </li>
  </ol>
</template>
