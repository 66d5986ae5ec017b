<script setup lang="ts">
import { ExclamationTriangleIcon } from '@heroicons/vue/24/outline';
import { useEventListener, useMediaQuery, useTimeoutFn, useWakeLock } from '@vueuse/core';
import { computed, ref, shallowRef, toRef, watch } from 'vue';
import type { Notebook } from '@/api/client';
import AgreementStrip from '@/features/bench/AgreementStrip.vue';
import type { Asking } from '@/notebook/asking';
import BenchDialogs from '@/features/bench/BenchDialogs.vue';
import Burette from '@/features/bench/Burette.vue';
import Checklist from '@/features/bench/Checklist.vue';
import EndPanel from '@/features/bench/EndPanel.vue';
import EntryPad from '@/features/bench/EntryPad.vue';
import FindingList from '@/features/bench/FindingList.vue';
import LogPanel from '@/features/bench/LogPanel.vue';
import type { Refused } from '@/notebook/outbox';
import ResultLine from '@/features/bench/ResultLine.vue';
import SendState from '@/features/bench/SendState.vue';
import SettingPanel from '@/features/bench/SettingPanel.vue';
import TrialTable from '@/features/bench/TrialTable.vue';
import { lastReading, useBench, type Timed, type TrialType } from '@/notebook/useBench';
import { useCountdown } from '@/notebook/useCountdown';
import { useEvents } from '@/notebook/useEvents';
import { prepare } from '@/notebook/judge';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
const bench = useBench(toRef(props, 'notebook'));
useEvents(props.notebook.id);
// The core for the time without network is loaded when the page has settled.
useTimeoutFn(prepare, 1500);

const wide = useMediaQuery('(min-width: 64rem)');
const text = ref('');
const problem = ref('');
const busy = ref(false);
const pad = ref<InstanceType<typeof EntryPad>>();
const asking = shallowRef<Asking>();

const sheet = computed(() => props.notebook.sheet);
const trials = computed(() => sheet.value.trials);
const running = computed(() => sheet.value.next.entry?.trial);
// The colour at the end is asked for until the next trial begins.
const ended = computed(() => {
  const last = trials.value.filter((x) => !x.withdrawn).at(-1);
  return props.notebook.mayWrite && last?.end && !last.setAside && last.type !== 'practice' ? last : undefined;
});

// The device stays awake while a trial is open.
const awake = useWakeLock();
watch(
  () => running.value !== undefined && props.notebook.mayWrite,
  (open) => void (open ? awake.request('screen') : awake.release()).catch(() => undefined),
  { immediate: true },
);

const timed = ref('');
const { kind: timing, left, start, stop } = useCountdown(timeIsUp);

function timeIsUp(what: Timed, seconds: number) {
  void bench.timed(what, seconds, what === 'end-colour' ? running.value : undefined);
  timed.value = say(`bench.timerEnded.${what}`, { seconds });
}

function toggleColourTimer() {
  timed.value = '';
  if (timing.value) stop();
  else start('end-colour', props.notebook.sheet.setting.hold);
  pad.value?.focus();
}

/** Writes what was typed; gives it back, with the reason, when it is not taken. */
async function write(reading: string, how: (reading: string) => Promise<Refused | undefined>) {
  problem.value = reading ? '' : say('bench.nothingTyped');
  if (!reading) return pad.value?.focus();
  busy.value = true;
  text.value = '';
  const refused = await how(reading);
  busy.value = false;
  if (refused) {
    problem.value = refused.why;
    text.value = reading;
  }
  pad.value?.focus();
}

const record = (reading: string, opens: TrialType) => write(reading, (r) => bench.record(r, opens));
const ofRunning = (mark: 'provisional' | 'before-refill' | 'start') => (reading: string) =>
  write(reading, (r) => bench.read(running.value!, mark, r));

function close() {
  asking.value = undefined;
  pad.value?.focus();
}

const keyed: Record<string, () => void> = {
  '/': () => {
    const place = lastReading(trials.value);
    if (place) asking.value = { what: 'correct', place };
  },
  '-': () => {
    const trial = lastReading(trials.value)?.trial;
    if (trial) asking.value = { what: trial.titre ? 'aside' : 'withdraw', trial };
  },
  '+': () => pad.value?.running && pad.value.act('note'),
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
  if (!props.notebook.mayWrite || asking.value || e.ctrlKey || e.metaKey || e.altKey) return;
  const target = e.target as HTMLElement;
  if (target.matches('input:not(#reading):not([type=radio]), textarea, select')) return;
  const act = keyed[e.key];
  const anyTime = '/+*?'.includes(e.key) || (pad.value?.running && 'fs'.includes(e.key));
  if (!act || (text.value !== '' && !anyTime)) return;
  act();
  e.preventDefault();
});
</script>

<template>
  <p
    class="panel mb-3 border-l-8 border-l-accent p-3 text-xl leading-snug font-semibold sm:text-2xl"
    aria-live="polite"
    data-test="next"
  >
    {{ sheet.next.text }}
  </p>
  <SendState />
  <p v-if="timed" class="mb-3 font-semibold text-agree" role="status">{{ timed }}</p>
  <p v-if="!notebook.mayWrite" class="mb-3 text-quiet">{{ say('bench.readOnly', { name: notebook.student }) }}</p>
  <div
    class="grid items-start gap-3 max-lg:grid-cols-[7.25rem_1fr]"
    :class="notebook.mayWrite ? 'lg:grid-cols-[230px_minmax(300px,360px)_1fr]' : 'lg:grid-cols-[230px_1fr]'"
  >
    <EndPanel
      v-if="ended && !wide"
      class="order-first col-span-2"
      :trial="ended"
      @colour="(c) => bench.observe('end-colour', c, ended!.id).then(() => pad?.focus())"
      @take="(v) => bench.correct(ended!.end!.entry, v, say('bench.tookEarlier')).then(() => pad?.focus())"
    />
    <div class="panel p-1 sm:p-2">
      <Burette :notebook="notebook" :small="!wide" />
    </div>
    <div v-if="notebook.mayWrite" class="grid gap-3 max-lg:contents">
      <EntryPad
        ref="pad"
        v-model="text"
        :notebook="notebook"
        :busy="busy"
        :problem="problem"
        :timing="timing"
        :left="left"
        @record="record"
        @note="(r) => ofRunning('provisional')(r)"
        @refill="(r) => ofRunning('before-refill')(r)"
        @again="(r) => ofRunning('start')(r)"
        @timer="toggleColourTimer"
      />
      <div class="grid grid-cols-2 gap-2 max-lg:col-span-2">
        <button
          type="button"
          class="button px-2"
          :disabled="!lastReading(trials)"
          @click="asking = { what: 'correct', place: lastReading(trials)! }"
        >
          {{ say('bench.correctLast') }}
        </button>
        <button type="button" class="button px-2" @click="asking = { what: 'note' }">{{ say('bench.note') }}</button>
        <button type="button" class="button px-2 text-alarm" @click="asking = { what: 'cautions' }">
          <ExclamationTriangleIcon class="size-5" aria-hidden="true" />{{ say('bench.cautions') }}
        </button>
        <button type="button" class="button px-2" @click="asking = { what: 'partner' }">
          {{ say('bench.partner') }}
        </button>
        <button type="button" class="button col-span-2 px-2 max-lg:hidden" @click="asking = { what: 'keys' }">
          {{ say('bench.keys') }}
        </button>
      </div>
    </div>
    <div class="grid gap-3 max-lg:col-span-2">
      <EndPanel
        v-if="ended && wide"
        :trial="ended"
        @colour="(c) => bench.observe('end-colour', c, ended!.id).then(() => pad?.focus())"
        @take="(v) => bench.correct(ended!.end!.entry, v, say('bench.tookEarlier')).then(() => pad?.focus())"
      />
      <Checklist
        v-if="sheet.stage === 'untouched'"
        :notebook="notebook"
        list="setup"
        :timing="timing"
        :left="left"
        @check="bench.check"
        @uncheck="(entry) => bench.withdraw(entry, say('bench.tappedWrongly'))"
        @wait="start('leak', 30)"
      >
        <button type="button" class="button" @click="asking = { what: 'leak' }">{{ say('bench.leak') }}</button>
        <button type="button" class="button" @click="asking = { what: 'weigh' }">{{ say('bench.weigh') }}</button>
        <button
          v-for="w in ['solution-made', 'aliquot', 'batch'] as const"
          :key="w"
          type="button"
          class="button"
          @click="asking = { what: w }"
        >
          {{ say(`bench.words.${w}`) }}
        </button>
        <button type="button" class="button" @click="start('stirring', 120)">
          {{ timing === 'stirring' ? `${Math.ceil(left)} s` : say('bench.stir') }}
        </button>
      </Checklist>
      <section v-else class="panel p-3" :aria-label="say('bench.agreement')">
        <AgreementStrip :notebook="notebook" />
        <p class="font-semibold" :class="sheet.agreement.status === 'agreed' && 'text-agree'" data-test="agreement">
          {{ notebook.sheet.agreement.text }}
        </p>
      </section>
      <section class="panel p-3">
        <TrialTable
          v-if="trials.length"
          :notebook="notebook"
          :actions="notebook.mayWrite"
          @correct="(place) => (asking = { what: 'correct', place })"
          @aside="(trial) => (asking = { what: 'aside', trial })"
          @restore="(trial) => (asking = { what: 'restore', trial })"
          @withdraw="(trial) => (asking = { what: 'withdraw', trial })"
        />
        <p v-else class="text-quiet">{{ say(notebook.mayWrite ? 'bench.empty' : 'bench.emptyReader') }}</p>
      </section>
      <ResultLine :notebook="notebook" />
      <section v-if="sheet.findings.length" class="panel p-3">
        <h2 class="label mb-2">{{ say('bench.look') }}</h2>
        <FindingList :notebook="notebook" />
      </section>
      <LogPanel :notebook="notebook" />
      <Checklist
        v-for="list in sheet.stage === 'untouched' ? [] : (['cleanup', 'setup'] as const)"
        :key="list"
        :notebook="notebook"
        :list="list"
        :timing="timing"
        :left="left"
        @check="bench.check"
        @uncheck="(entry) => bench.withdraw(entry, say('bench.tappedWrongly'))"
        @wait="start('leak', 30)"
      >
        <template v-if="list === 'cleanup'">
          <button
            v-for="w in ['waste', 'left'] as const"
            :key="w"
            type="button"
            class="button"
            @click="asking = { what: w }"
          >
            {{ say(`bench.words.${w}`) }}
          </button>
        </template>
        <template v-else>
          <button type="button" class="button" @click="asking = { what: 'leak' }">{{ say('bench.leak') }}</button>
          <button type="button" class="button" @click="asking = { what: 'weigh' }">{{ say('bench.weigh') }}</button>
        </template>
      </Checklist>
      <SettingPanel :notebook="notebook" @known="bench.known" />
    </div>
  </div>
  <BenchDialogs :notebook="notebook" :bench="bench" :asking="asking" @close="close" />
</template>
