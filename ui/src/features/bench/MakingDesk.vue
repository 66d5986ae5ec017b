<script setup lang="ts">
// The bench where a solution is made and nothing titrated: what is weighed or taken of a stock,
// what it is made up to, and what was seen.
import { computed, nextTick, onMounted, ref, shallowRef, toRef } from 'vue';
import type { Notebook } from '@/api/client';
import { BenchBelow, BenchDialogs } from '@/features/bench/parts';
import MakingActions from '@/features/bench/panels/MakingActions.vue';
import NextLine from '@/features/bench/NextLine.vue';
import TimerDone from '@/features/bench/panels/TimerDone.vue';
import { useUndo } from '@/features/bench/pad/useUndo';
import { useSettings } from '@/device/settings';
import type { Asking } from '@/notebook/asking';
import { prepare } from '@/notebook/judge';
import { useBench, type Timed } from '@/notebook/useBench';
import { useCountdown } from '@/notebook/useCountdown';
import { useEvents } from '@/notebook/useEvents';
import { afterPaint, painted } from '@/shared/idle';
import { whenMissing } from '@/shared/later';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
const notebook = toRef(props, 'notebook');
const bench = useBench(notebook);
useEvents(props.notebook.id);
onMounted(() => {
  prepare();
  afterPaint(() => (painted.value = true));
});
const settings = useSettings();
const { text: undoable, undo } = useUndo(notebook, bench);
const asking = shallowRef<Asking>();
const problem = ref('');
const main = ref<HTMLElement>();
const focus = () => void nextTick(() => main.value?.querySelector<HTMLElement>('[data-main]')?.focus());
onMounted(focus);

async function told(entry: Promise<string | undefined>) {
  problem.value = (await entry) ?? '';
  focus();
}
const timed = ref('');
const {
  kind: timing,
  left,
  start,
} = useCountdown<Timed>('timer.' + props.notebook.id, (what, seconds) => {
  void told(bench.timed(what, seconds));
  timed.value = say(`bench.timerEnded.${what}`, { seconds });
});
function close() {
  asking.value = undefined;
  focus();
}
whenMissing(close);
const may = computed(() => props.notebook.mayWrite && !props.notebook.handedIn);
</script>

<template>
  <div ref="main" class="grid gap-3">
    <NextLine :notebook="notebook" />
    <p v-if="!notebook.mayWrite" class="text-quiet">{{ say('bench.readOnly', { name: notebook.student }) }}</p>
    <p v-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
    <MakingActions
      :notebook="notebook"
      :may="!!may"
      :undoable="undoable"
      @ask="(what) => (asking = what)"
      @undo="told(undo())"
    />
    <BenchBelow
      v-if="painted"
      :notebook="notebook"
      :bench="bench"
      :probe="undefined"
      small
      :timing="timing"
      :left="left"
      @ask="(what) => (asking = what)"
      @check="(item) => told(bench.check(item))"
      @check-all="(items) => told(bench.checkAll(items))"
      @uncheck="(entry) => told(bench.withdraw(entry, say('bench.tappedWrongly')))"
      @start="start"
      @done="focus"
    />
  </div>
  <BenchDialogs v-if="asking" :notebook="notebook" :bench="bench" :asking="asking" @close="close" />
  <TimerDone v-if="timed" :key="timed" :text="timed" :sound="settings.sound" @close="timed = ''" />
</template>
