<script setup lang="ts">
// One bench of the board: what it needs, what to say, what is still to be done. Beside the others where there
// is room, else over them.
import { useEventListener, useMediaQuery } from '@vueuse/core';
import { XMarkIcon } from '@heroicons/vue/24/outline';
import { computed, onMounted, ref } from 'vue';
import { takeHand, type BoardRow } from '@/api/lesson';
import { since } from '@/features/lesson/time';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const props = defineProps<{ row: BoardRow; now: number }>();
const emit = defineEmits<{ close: [] }>();
const wide = useMediaQuery('(min-width: 64rem)');
useEventListener(window, 'keydown', (e: KeyboardEvent) => wide.value && e.key === 'Escape' && emit('close'));
// Who opened it by the keyboard reads on there.
const head = ref<HTMLElement>();
onMounted(() => head.value?.focus({ preventScroll: true }));
const title = computed(() =>
  props.row.bench ? say('board.bench', { bench: props.row.bench, name: props.row.name }) : props.row.name,
);
const failed = ref('');
async function hand(cleared: boolean) {
  failed.value = '';
  try {
    await takeHand(props.row.notebook!, cleared);
  } catch (e) {
    failed.value = e instanceof Error ? e.message : String(e);
  }
}
const facts = computed(() =>
  [
    props.row.stageText,
    props.row.trial &&
      props.row.since &&
      say('board.trial', { trial: props.row.trial, minutes: since(props.row.since, props.now) }),
    props.row.seen && say('board.seen', { minutes: since(props.row.seen, props.now) }),
    props.row.burette && say('board.burette', { number: props.row.burette }),
    props.row.sample && say('board.sample', { code: props.row.sample }),
    props.row.off && say('board.off', { percent: props.row.off }),
  ].filter(Boolean),
);
</script>

<template>
  <component
    :is="wide ? 'aside' : AppDialog"
    :title="wide ? undefined : title"
    :class="wide && 'sticky top-2 max-h-[calc(100dvh-1rem)] overflow-y-auto border-l-2 border-ink pl-4'"
    data-test="bench-open"
    @close="$emit('close')"
  >
    <div class="grid gap-3">
      <header v-if="wide" class="flex items-start gap-2">
        <h2 ref="head" tabindex="-1" class="grow text-xl font-bold">{{ title }}</h2>
        <button type="button" class="tool" :aria-label="say('dialog.close')" @click="$emit('close')">
          <XMarkIcon class="size-5" />
        </button>
      </header>
      <div v-if="row.handUp" class="flex flex-wrap items-center gap-2 rounded-glass bg-tint p-2">
        <p class="grow font-semibold">
          {{ row.handBy ? say('board.goes', { by: row.handBy }) : say('hand.up') }}
        </p>
        <button v-if="!row.handBy" type="button" class="button-main" @click="hand(false)">
          {{ say('board.iGo') }}
        </button>
        <button type="button" class="button" @click="hand(true)">{{ say('board.helped') }}</button>
      </div>
      <p v-if="failed" class="font-semibold text-alarm" role="alert">{{ failed }}</p>
      <ol v-if="row.needs.length" class="grid gap-2">
        <li v-for="n in row.needs" :key="n.code + n.say">
          <p class="font-semibold">{{ n.say }}</p>
          <p class="text-sm text-quiet">{{ n.tell }}</p>
        </li>
      </ol>
      <p v-else class="text-agree">{{ say('board.well') }}</p>
      <p class="text-sm">{{ facts.join(' · ') }}</p>
      <p v-if="row.titres.length" class="figure">
        <span
          v-for="(t, i) in row.titres"
          :key="i"
          class="mr-3"
          :class="t.state === 'counts' && 'font-bold text-agree'"
          >{{ t.text }}</span
        >
      </p>
      <p class="text-sm text-quiet">{{ row.agreement }}</p>
      <p v-if="row.toDo.length" class="text-sm">{{ say('lesson.toDo', { list: row.toDo.join(', ') }) }}</p>
      <RouterLink v-if="row.notebook" class="button" :to="{ name: 'bench', params: { id: row.notebook } }">{{
        say('board.open')
      }}</RouterLink>
    </div>
  </component>
</template>
