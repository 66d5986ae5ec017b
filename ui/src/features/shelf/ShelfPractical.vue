<script setup lang="ts">
// One practical on the shelf: when it is due, what to do next.
import { computed } from 'vue';
import type { Schemas } from '@/api/client';
import ShelfNotebook from '@/features/shelf/ShelfNotebook.vue';
import SequenceLine from '@/shared/SequenceLine.vue';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{
  p: Schemas['ShelfItem'];
  classId: string;
  archived?: boolean;
  /** Among many others. */
  brief?: boolean;
}>();
defineEmits<{ failed: [why: string] }>();

const params = computed(() => ({ classId: props.classId, practical: props.p.practical }));
</script>

<template>
  <article class="sheet">
    <div class="flex flex-wrap items-start justify-between gap-2">
      <h3 class="text-xl font-bold">{{ p.title }}</h3>
      <span v-if="p.ended" class="text-quiet">{{ say('shelf.ended') }}</span>
      <RouterLink v-else class="button" :to="{ name: 'plan', params }">{{ say('shelf.prepare') }}</RouterLink>
    </div>
    <SequenceLine v-if="p.sequence" :parts="p.sequence" :here="p.practical" class="mb-2" />
    <p v-if="p.broken" class="mb-2 font-semibold text-alarm" role="alert">{{ p.broken }}</p>
    <p v-if="p.times?.due || p.sample" class="mb-1 flex flex-wrap gap-x-4 font-semibold">
      <span v-if="p.times?.due" :class="p.over && 'text-alarm'">{{
        say('shelf.due', { at: whenIs(p.times?.due) })
      }}</span>
      <span v-if="p.sample" data-test="sample">{{ say('shelf.sample', { code: p.sample }) }}</span>
    </p>
    <p v-if="p.setting.equation" class="mb-2 text-lg text-quiet">{{ p.setting.equation }}</p>
    <p v-if="!brief" class="mb-4 max-w-prose">{{ p.purpose }}</p>
    <p v-if="p.notebooks.length === 0" class="text-quiet">{{ say('shelf.nobody') }}</p>
    <ul class="grid gap-3">
      <ShelfNotebook
        v-for="n in p.notebooks"
        :key="n.id || n.student"
        :n="n"
        :closed="archived || p.over"
        :brief="brief"
        :where="{ class: classId, practical: p.practical }"
        @failed="$emit('failed', $event)"
      />
    </ul>
  </article>
</template>
