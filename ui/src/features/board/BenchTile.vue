<script setup lang="ts">
// One bench on the board: its number, what it does, its titres on the common axis, what
// it needs. The state is a sign and a word, not a colour alone.
import { HandRaisedIcon } from '@heroicons/vue/24/solid';
import { computed } from 'vue';
import type { BoardRow } from '@/api/lesson';
import { placeOn } from '@/features/board/board';
import { since } from '@/features/lesson/time';
import { say } from '@/words';

const props = defineProps<{
  row: BoardRow;
  now: number;
  span: [number, number];
  projector: boolean;
  ending: boolean;
  open?: boolean;
}>();
defineEmits<{ open: [] }>();
const signs = { hand: '', help: '!', look: '?', working: '…', done: '✓', 'not-begun': '○' } as const;
const tones = {
  hand: 'border-(--end) border-t-4 bg-tint text-(color:--end)',
  help: 'border-rough border-t-4 text-rough',
  look: 'border-rough text-rough',
  working: 'border-hair text-quiet',
  done: 'border-agree text-agree',
  'not-begun': 'border-hair text-quiet',
} as const;
const marks = { counts: 'bg-agree', rough: 'bg-rough', pending: 'bg-ink', aside: 'bg-hair' } as const;
/** On the projector everybody sees it: who is called, who is done, and no judgement. */
const state = computed(() => {
  if (props.row.handedIn && props.row.state !== 'hand') return 'done'; // nothing is to be done at that bench
  if (!props.projector || props.row.state === 'hand' || props.row.state === 'not-begun') return props.row.state;
  return props.row.done ? 'done' : 'working';
});
const need = computed(() => props.row.needs[0]);
const line = computed(() => {
  if (props.row.handedIn) return say(props.row.late ? 'board.handedInLate' : 'board.handedIn');
  if (props.ending) return say('board.still', { list: props.row.toDo.join(', ') });
  if (need.value) return need.value.say;
  return ''; // nothing the matter: what it does is enough
});
const doing = computed(() =>
  props.row.trial && props.row.since
    ? say('board.trial', { trial: props.row.trial, minutes: since(props.row.since, props.now) })
    : props.row.stageText,
);
</script>

<template>
  <button
    type="button"
    class="print-keep flex h-full w-full flex-col border-t-2 px-2 pt-0.5 pb-1.5 text-left hover:bg-tint"
    :class="[tones[state], projector && 'cursor-default', open && 'bg-tint']"
    :aria-expanded="!projector && !!open"
    :data-state="state"
    :data-test="'bench-' + row.person"
    @click="$emit('open')"
  >
    <span class="flex w-full items-baseline gap-1.5">
      <span class="figure text-xl leading-6 font-bold text-ink">{{ row.bench || '–' }}</span>
      <span v-if="!projector" class="min-w-0 grow text-sm leading-tight font-semibold wrap-anywhere text-ink">{{
        row.name
      }}</span>
      <span v-else class="grow"></span>
      <span class="font-bold" :title="say(`board.state.${state}`)"
        ><HandRaisedIcon v-if="state === 'hand'" class="size-5" aria-hidden="true" /><span v-else aria-hidden="true">{{
          signs[state]
        }}</span
        ><span class="sr-only">{{ say(`board.state.${state}`) }}</span></span
      >
    </span>
    <span v-if="!line" class="text-sm leading-tight text-quiet">{{ doing }}</span>
    <span class="relative my-0.5 block h-3 rounded bg-well" aria-hidden="true">
      <span
        v-for="(t, i) in row.titres"
        :key="i"
        class="absolute top-0 h-3 w-[3px] -translate-x-1/2"
        :class="marks[t.state]"
        :style="{ left: placeOn(span, t.value) * 100 + '%' }"
      ></span>
    </span>
    <span class="sr-only">{{ row.titres.map((t) => t.text).join(', ') }}</span>
    <span v-if="!projector" class="text-sm leading-tight" :class="need ? 'font-semibold' : 'text-quiet'">{{
      line
    }}</span>
    <span v-else-if="row.state === 'hand'" class="text-sm font-semibold">{{
      row.handBy ? say('board.goes', { by: row.handBy }) : say('hand.up')
    }}</span>
  </button>
</template>
