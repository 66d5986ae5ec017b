<script setup lang="ts">
// One practical on the shelf: when it is due, what to do next; for those who teach, how
// many are where.
import { computed } from 'vue';
import type { Schemas } from '@/api/client';
import ShelfNotebook from '@/features/shelf/ShelfNotebook.vue';
import SequenceLine from '@/shared/SequenceLine.vue';
import { dates, say } from '@/words';

const props = defineProps<{
  p: Schemas['ShelfItem'];
  role: Schemas['ClassShelf']['role'];
  classId: string;
  archived?: boolean;
  /** Among many others. */
  brief?: boolean;
}>();
defineEmits<{ failed: [why: string] }>();

const teaches = computed(() => props.role !== 'student');
const params = computed(() => ({ classId: props.classId, practical: props.p.practical }));
const when = (at: string) => new Date(at).toLocaleString(dates(), { dateStyle: 'medium', timeStyle: 'short' });
const counts = computed(() => {
  const by = new Map<string, number>();
  for (const n of props.p.notebooks) by.set(n.stageText, (by.get(n.stageText) ?? 0) + 1);
  return [...by].sort(([, a], [, b]) => b - a);
});
const look = computed(() => props.p.notebooks.filter((n) => n.checks || n.broken).length);
const handedIn = computed(() => props.p.notebooks.some((n) => n.handedIn));
const few = computed(() => (props.brief ? 0 : 8)); // so many are shown at once
</script>

<template>
  <article class="panel p-5 max-sm:p-3">
    <div class="flex flex-wrap items-start justify-between gap-2">
      <h3 class="text-xl font-bold">{{ p.title }}</h3>
      <span v-if="p.ended" class="text-quiet">{{ say('shelf.ended') }}</span>
      <div v-else class="flex flex-wrap gap-2">
        <RouterLink class="button" :to="{ name: 'plan', params }">{{
          say(teaches ? 'shelf.plan' : 'shelf.prepare')
        }}</RouterLink>
        <RouterLink v-if="teaches" class="button" :to="{ name: 'board', params }">{{ say('shelf.board') }}</RouterLink>
        <RouterLink v-if="teaches && handedIn" class="button" :to="{ name: 'marking', params }">{{
          say('shelf.marking')
        }}</RouterLink>
        <RouterLink v-if="teaches" class="button" :to="{ name: 'setting', params }">{{
          say('shelf.setting')
        }}</RouterLink>
        <RouterLink v-if="p.reference?.id" class="button" :to="{ name: 'bench', params: { id: p.reference.id } }">{{
          say('shelf.reference')
        }}</RouterLink>
      </div>
    </div>
    <SequenceLine v-if="p.sequence" :parts="p.sequence" :here="p.practical" class="mb-2" />
    <p v-if="p.broken" class="mb-2 font-semibold text-alarm" role="alert">{{ p.broken }}</p>
    <p v-if="p.times?.due || p.sample || (teaches && p.times?.opens)" class="mb-1 flex flex-wrap gap-x-4 font-semibold">
      <span v-if="teaches && p.times?.opens">{{ say('shelf.opens', { at: when(p.times?.opens) }) }}</span>
      <span v-if="p.times?.due" :class="p.over && 'text-alarm'">{{
        say('shelf.due', { at: when(p.times?.due) })
      }}</span>
      <span v-if="p.sample" data-test="sample">{{ say('shelf.sample', { code: p.sample }) }}</span>
    </p>
    <p v-if="p.setting.equation" class="mb-2 text-lg text-quiet">{{ p.setting.equation }}</p>
    <p v-if="!teaches && !brief" class="mb-4 max-w-prose">{{ p.purpose }}</p>
    <p v-if="p.notebooks.length === 0" class="text-quiet">{{ say('shelf.nobody') }}</p>
    <ul v-if="teaches && p.notebooks.length" class="mb-3 flex flex-wrap gap-2" data-test="where">
      <li v-for="[text, n] in counts" :key="text" class="rounded-glass bg-well px-3 py-1">
        <span class="figure font-semibold">{{ n }}</span> {{ text }}
      </li>
      <li v-if="look" class="rounded-glass bg-well px-3 py-1 font-semibold text-rough">
        {{ say('shelf.toLook', {}, look) }}
      </li>
    </ul>
    <component :is="teaches && p.notebooks.length > few ? 'details' : 'div'">
      <summary v-if="teaches && p.notebooks.length > few" class="min-h-11 font-semibold">
        {{ say('shelf.eachOne') }}
      </summary>
      <ul class="grid gap-3" :class="teaches && 'md:grid-cols-2'">
        <ShelfNotebook
          v-for="n in p.notebooks"
          :key="n.id || n.student"
          :n="n"
          :role="role"
          :closed="archived || p.over"
          :brief="brief"
          :where="{ class: classId, practical: p.practical }"
          @failed="$emit('failed', $event)"
        />
      </ul>
    </component>
  </article>
</template>
