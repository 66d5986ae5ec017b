<script setup lang="ts">
import { useEventListener, useMediaQuery, useWakeLock } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, shallowRef, toRef, watch } from 'vue';
import type { Notebook } from '@/api/client';
import AgreementPanel from '@/features/bench/trials/AgreementPanel.vue';
import type { Asking } from '@/notebook/asking';
import BenchActions from '@/features/bench/BenchActions.vue';
import BenchGuide from '@/features/bench/BenchGuide.vue';
import NextLine from '@/features/bench/NextLine.vue';
import Burette from '@/features/bench/pad/Burette.vue';
import DonePanel from '@/features/bench/panels/DonePanel.vue';
import EndPanel from '@/features/bench/trials/EndPanel.vue';
import { BenchBelow, BenchDialogs, ChooseDialog } from '@/features/bench/parts';
import EntryPad from '@/features/bench/pad/EntryPad.vue';
import ProbePad from '@/features/bench/probe/ProbePad.vue';
import TimerDone from '@/features/bench/panels/TimerDone.vue';
import { useChoices } from '@/features/bench/dialogs/useChoices';
import { useFirstKey, useShown } from '@/features/bench/pad/useShown';
import { useTaking } from '@/features/bench/pad/useTaking';
import { useRecording } from '@/features/bench/pad/useRecording';
import { useUndo } from '@/features/bench/pad/useUndo';
import { useSettings } from '@/device/settings';
import { useBench, type Timed, type TrialType } from '@/notebook/useBench';
import { useCountdown } from '@/notebook/useCountdown';
import { useEvents } from '@/notebook/useEvents';
import { prepare } from '@/notebook/judge';
import { nowhere } from '@/shared/focus';
import { afterPaint, painted, whenIdle } from '@/shared/idle';
import { whenMissing } from '@/shared/later';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; whole: boolean; stuck: boolean }>();
const notebook = toRef(props, 'notebook');
const bench = useBench(notebook);
useEvents(props.notebook.id);
void BenchBelow.fetch(); // while the rest is drawn
// The core for the time without network is loaded when the page has settled; at once
// where something waits for it.
onMounted(() => afterPaint(() => afterPaint(() => (painted.value = true)))); // the field has the focus before
onMounted(() => (props.whole ? whenIdle(() => setTimeout(prepare, 1500)) : prepare()));

const wide = useMediaQuery('(min-width: 64rem)');
const settings = useSettings();
const reading = ref<InstanceType<typeof EntryPad>>();
const probePad = ref<InstanceType<typeof ProbePad>>();
// A point has two fields: its pad takes the place of the other.
const type = ref<TrialType>('accurate');
const here = useShown(notebook, type);
const follows = computed(() => !!here.expect.value?.point);
const pad = computed(() => (follows.value ? probePad.value : reading.value));
const focus = () => pad.value?.focus();
const {
  text,
  shown,
  colour: seen,
  temperature,
  ahead,
  problem,
  busy,
  settled,
  accepts,
  act,
  actPoint,
} = useRecording(notebook, bench, toRef(props, 'whole'), focus);
// A key for the pad before it is there: what is shown then counts.
const { keyed: firstKeyed } = useFirstKey(
  props.notebook.id,
  () => text.value,
  () => [here.shown(), settled.value],
);
const { text: undoable, undo } = useUndo(notebook, bench);
/** What is written by a touch: why it was not taken is said at the pad. */
async function told(entry: Promise<string | undefined>) {
  const why = await entry;
  if (why !== undefined) problem.value = why;
  focus();
}
const { probe, live, ran } = useTaking(notebook, () => probePad.value?.take());
const asking = shallowRef<Asking>();
const choosing = ref(false);

const sheet = computed(() => props.notebook.sheet);
const trials = computed(() => sheet.value.trials);
const runningTrial = computed(() => trials.value.find((t) => t.id === sheet.value.next.entry?.trial));
// The colour at the end is asked for until the next trial begins.
const ended = computed(() => {
  const last = trials.value.filter((x) => !x.withdrawn).at(-1);
  return props.notebook.mayWrite && last?.end && !last.setAside && last.type !== 'practice' ? last : undefined;
});
// A probe alone sees no colour.
const seenEnd = computed(() => (sheet.value.setting.seen ? ended.value : undefined));
// Nothing is typed into a state that does not have everything that was typed before.
const opened = ref(props.whole);
watch(
  () => props.whole,
  (now) => now && (opened.value = true),
);
const closed = computed(() => {
  if (props.stuck) return say('bench.closedStuck');
  return opened.value || busy.value ? '' : say('bench.closedReading');
});

// Where the titres agree what comes next stands in the place of the pad, until somebody
// wants another trial; handed in, nothing more is recorded.
const another = ref(false);
const finished = computed(() => {
  if (props.notebook.handedIn) return true;
  const typing = text.value !== '' || ahead.value.length > 0 || busy.value || problem.value !== '';
  return !!sheet.value.next.then && !another.value && !runningTrial.value && !typing && opened.value;
});
watch(runningTrial, (open) => open && (another.value = false));
watch(finished, (now) => now || void nextTick(focus));
function again() {
  another.value = true;
}

// The device stays awake while a trial is open.
const awake = useWakeLock();
watch(
  () => runningTrial.value !== undefined && props.notebook.mayWrite,
  (open) => void (open ? awake.request('screen') : awake.release()).catch(() => undefined),
  { immediate: true },
);

const timed = ref('');
const { kind: timing, left, start, stop } = useCountdown<Timed>('timer.' + props.notebook.id, timeIsUp);

function timeIsUp(what: Timed, seconds: number, trial: string) {
  void told(bench.timed(what, seconds, trial || undefined));
  timed.value = say(`bench.timerEnded.${what}`, { seconds });
}

function toggleColourTimer() {
  timed.value = '';
  if (timing.value) stop();
  else start('end-colour', props.notebook.sheet.setting.hold, here.expect.value?.trial);
  focus();
}

const colour = (value: string) => ended.value && told(bench.observe('end-colour', value, ended.value.id));
const take = (value: string) =>
  ended.value && told(bench.correct(ended.value.end!.entry, value, say('bench.tookEarlier')));
const tick = (item: string) => told(bench.check(item));
const untick = (entry: string) => told(bench.withdraw(entry, say('bench.tappedWrongly')));

const types = computed<TrialType[]>(() => sheet.value.next.entry?.may?.map((m) => m.type) ?? []);
const choices = useChoices(notebook, {
  ended,
  type,
  types,
  colour,
  take,
  tick,
  untick,
  ask: (what) => (asking.value = what),
});

function close() {
  asking.value = undefined;
  choosing.value = false;
  focus();
}
whenMissing(close);

const keyed: Record<string, () => void> = {
  '/': () => (choosing.value = true),
  '-': () => undoable.value && void told(undo()),
  '+': () => (follows.value ? probePad.value?.take() : reading.value?.running && reading.value.act('note')),
  '*': () => pad.value?.running && toggleColourTimer(),
  f: () => pad.value?.running && pad.value.act('refill'),
  s: () => pad.value?.running && pad.value.act('again'),
  n: () => (asking.value = { what: 'note' }),
  w: () => (asking.value = { what: 'weigh' }),
  l: () => (asking.value = { what: 'leak' }),
  c: () => (asking.value = { what: 'cautions' }),
  '?': () => (asking.value = { what: 'keys' }),
};

// One key does it, unless text is being written: a reading begins with a digit
// or a sign, so that these keys are free while none was typed.
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  const over = asking.value || choosing.value;
  // Meant for a dialog that is on its way: no part of a reading.
  if (over && !document.querySelector('[role=dialog]')) e.preventDefault();
  if (!props.notebook.mayWrite || !settings.value.keys || over || e.repeat || e.ctrlKey || e.metaKey || e.altKey)
    return;
  const target = e.target as HTMLElement;
  if (target.matches('input:not(#reading):not([type=radio]), textarea, select')) return;
  if (finished.value && !props.notebook.handedIn && /^[0-9]$/.test(e.key)) {
    firstKeyed();
    text.value += e.key; // a reading: the pad comes back for it
    again();
    e.preventDefault();
    return;
  }
  // The field may not have the focus yet: what is typed goes there, and Enter is not lost.
  if (nowhere(target) && /^([0-9.,]|Enter)$/.test(e.key)) return focus();
  const does = keyed[e.key];
  const anyTime = '/+*?'.includes(e.key) || (pad.value?.running && 'fs'.includes(e.key));
  if (!does || (text.value !== '' && !anyTime)) return;
  does();
  e.preventDefault();
});
</script>

<template>
  <NextLine :notebook="notebook" />
  <p v-if="!notebook.mayWrite" class="mb-2 text-quiet">{{ say('bench.readOnly', { name: notebook.student }) }}</p>
  <div
    class="grid items-start gap-3 max-lg:gap-2"
    :class="
      notebook.mayWrite
        ? 'max-md:grid-cols-[7.25rem_1fr] max-[22.5rem]:grid-cols-1 md:grid-cols-[minmax(300px,360px)_1fr] lg:grid-cols-[230px_minmax(300px,360px)_1fr]'
        : 'grid-cols-[7.25rem_1fr] lg:grid-cols-[230px_0_1fr]'
    "
  >
    <!-- Both have one place: nothing below moves when one takes the other's. -->
    <div
      v-if="notebook.mayWrite"
      class="no-print relative grid max-md:col-span-full lg:col-start-2 lg:row-start-1 short:col-span-full short:col-start-1 short:row-start-1"
    >
      <DonePanel
        v-if="finished"
        class="absolute inset-0 z-[1] overflow-y-auto"
        :notebook="notebook"
        :ended="seenEnd"
        @another="again"
        @colour="colour"
      />
      <ProbePad
        v-if="follows"
        ref="probePad"
        v-model="text"
        v-model:shown="shown"
        v-model:colour="seen"
        v-model:temperature="temperature"
        class="col-start-1 row-start-1"
        :class="finished && 'invisible'"
        :notebook="notebook"
        :here="here"
        :settled="settled"
        :problem="problem"
        :ahead="ahead"
        :closed="closed"
        :live="live"
        @ran="ran"
        @act="actPoint"
      />
      <EntryPad
        v-else
        ref="reading"
        v-model="text"
        v-model:type="type"
        class="col-start-1 row-start-1"
        :class="finished && 'invisible'"
        :notebook="notebook"
        :here="here"
        :problem="problem"
        :ahead="ahead"
        :types="types"
        :closed="closed"
        :settled="settled"
        :accepts="accepts"
        :ended="seenEnd"
        :timing="timing"
        :left="left"
        @act="act"
        @colour="colour"
        @timer="toggleColourTimer"
      />
    </div>
    <div class="no-print panel p-1 sm:p-2 lg:col-start-1 lg:row-start-1 short:row-start-2">
      <Burette :notebook="notebook" :small="!wide" />
    </div>
    <div
      class="grid min-w-0 grid-cols-1 gap-3 max-md:contents md:col-start-2 md:row-span-2 md:row-start-1 lg:col-start-3 lg:row-span-1 short:row-start-2 short:row-span-1"
    >
      <div class="grid min-w-0 grid-cols-1 content-start gap-3">
        <BenchActions
          v-if="notebook.mayWrite"
          :sheet="sheet"
          :undoable="undoable"
          @undo="told(undo())"
          @ask="(what) => (asking = what)"
          @choose="choosing = true"
        />
        <BenchGuide
          v-if="notebook.mayWrite && sheet.stage === 'untouched' && !settings.guided"
          @seen="settings.guided = true"
        />
        <EndPanel v-if="ended?.provisional?.length" :trial="ended" @take="take" />
        <AgreementPanel v-if="sheet.stage !== 'untouched' && !probe" :notebook="notebook" :small="!wide" />
      </div>
      <BenchBelow
        v-if="painted"
        class="max-md:col-span-full"
        :notebook="notebook"
        :bench="bench"
        :probe="probe"
        :small="!wide"
        :timing="timing"
        :left="left"
        @ask="(what) => (asking = what)"
        @check="tick"
        @check-all="(items) => told(bench.checkAll(items))"
        @uncheck="untick"
        @belongs="(trial, sample) => told(bench.belongs(trial.id, sample))"
        @start="start"
        @done="focus"
      />
    </div>
  </div>
  <BenchDialogs v-if="asking" :notebook="notebook" :bench="bench" :asking="asking" @close="close" />
  <ChooseDialog v-if="choosing" :choices="choices" @close="close" />
  <TimerDone v-if="timed" :key="timed" :text="timed" :sound="settings.sound" @close="timed = ''" />
</template>
