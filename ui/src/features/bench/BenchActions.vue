<script setup lang="ts">
// What can be done at any time beside writing a reading.
import { computed } from 'vue';
import type { Schemas } from '@/api/client';
import type { Asking } from '@/notebook/asking';
import { lastReading } from '@/notebook/useBench';
import { say, type Key } from '@/words';

const props = defineProps<{ sheet: Schemas['Sheet']; undoable: string }>();
const emit = defineEmits<{ undo: []; ask: [what: Asking]; choose: [] }>();
const last = computed(() => lastReading(props.sheet.trials));

type Action = { text: Key; act: () => void; off?: boolean; look?: string; test?: string };
const ask = (what: Asking) => () => emit('ask', what);
const actions = computed<Action[]>(() => [
  {
    text: 'bench.correctLast',
    act: () => last.value && emit('ask', { what: 'correct', place: last.value }),
    off: !last.value,
  },
  { text: 'bench.note', act: ask({ what: 'note' }) },
  { text: 'bench.cautions', act: ask({ what: 'cautions' }), look: 'text-alarm' },
  { text: 'bench.more', act: () => emit('choose') },
  ...(props.sheet.probe
    ? [{ text: 'calibrate.short', act: ask({ what: 'calibrate' }), test: 'calibrate' } satisfies Action]
    : []),
  { text: 'bench.partner', act: ask({ what: 'partner' }) },
  { text: 'bench.keys', act: ask({ what: 'keys' }), look: 'max-lg:hidden' },
]);
</script>

<template>
  <div class="grid auto-cols-fr grid-flow-col gap-1.5 max-md:grid-flow-row max-md:grid-cols-2">
    <button type="button" class="button button-low" :disabled="!undoable" data-test="undo" @click="emit('undo')">
      <span class="grid min-w-0">
        {{ say('bench.undo') }} <span class="figure truncate font-normal">{{ undoable || '–' }}</span>
      </span>
    </button>
    <button
      v-for="a in actions"
      :key="a.text"
      type="button"
      class="button button-low"
      :class="a.look"
      :disabled="a.off"
      :data-test="a.test"
      @click="a.act"
    >
      {{ say(a.text) }}
    </button>
  </div>
</template>
