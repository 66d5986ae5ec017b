<script setup lang="ts">
// The large entry: a number pad alone, or a finger alone, drives it. Every row has its
// place whether or not there is something in it: what is about to be touched never moves.
import { useMediaQuery } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import type { Notebook, Trial } from '@/api/client';
import type { Ahead, PadAction } from '@/features/bench/pad/useRecording';
import { colours } from '@/features/bench/dialogs/useChoices';
import type { TrialType } from '@/notebook/useBench';
import type { Shown } from '@/features/bench/pad/target';
import { useFirstKey, type ShownHere } from '@/features/bench/pad/useShown';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import NumberPad from '@/features/bench/pad/NumberPad.vue';
import WhichTrial from '@/features/bench/pad/WhichTrial.vue';
import { focusAfterPaint } from '@/shared/focus';
import { say } from '@/words';

const props = defineProps<{
  notebook: Notebook;
  here: ShownHere; // the trial that is shown
  problem: string;
  ahead: Ahead[];
  types: TrialType[];
  closed: string; // why nothing can be typed now
  settled: boolean; // what is shown is what was recorded last
  accepts: boolean; // and has stood long enough for what is proposed to be accepted
  ended?: Trial;
  timing: string;
  left: number;
}>();
const emit = defineEmits<{
  act: [action: PadAction, text: string, opens: TrialType, sample: string, shown: Shown, settled: boolean];
  colour: [value: string];
  timer: [];
}>();
const text = defineModel<string>({ required: true });
const type = defineModel<TrialType>('type', { required: true });

const coarse = useMediaQuery('(pointer: coarse)');
const box = ref<HTMLInputElement>();
const { chosen, opened, expect, nameOf, shown } = props.here;
// Of several samples the one that is proposed, until another is chosen.
const sample = ref('');
watch(
  () => expect.value?.sample,
  (name) => (sample.value = name ?? ''),
  { immediate: true },
);
const samples = computed(() => props.notebook.sheet.setting.samples ?? []);

const running = computed(() => expect.value?.trial !== undefined && expect.value.mark === 'end');
const what = computed(() => {
  return {
    mark: say(`bench.marks.${expect.value?.mark ?? 'start'}`),
    of: nameOf(expect.value?.trial) || say(`bench.new.${type.value}`),
  };
});

const actions = ['note', 'refill', 'again'] as const;

const { keyed, firstKey } = useFirstKey(
  props.notebook.id,
  () => text.value,
  () => [shown(), props.settled],
);

function press(d: string) {
  keyed();
  text.value += d;
}

function act(action: PadAction) {
  if (props.closed) return;
  emit('act', action, text.value.trim(), type.value, sample.value, ...firstKey());
}

const focus = () => void nextTick(() => box.value?.focus({ preventScroll: true }));
focusAfterPaint(focus);
defineExpose({ focus, act, running });
</script>

<template>
  <form
    class="panel p-3 max-lg:p-2 short:grid short:grid-cols-2 short:gap-x-3 short:p-1.5"
    data-test="pad"
    data-many
    :data-accepts="accepts || undefined"
    :data-settled="settled || undefined"
    :data-trial="expect?.trial"
    :data-mark="expect?.mark"
    @submit.prevent="act('record')"
  >
    <div class="min-w-0">
      <div
        v-if="expect?.opens"
        class="grid h-12 auto-cols-fr grid-flow-col gap-1 short:h-11"
        role="radiogroup"
        :aria-label="say('bench.type')"
      >
        <label
          v-for="k in types"
          :key="k"
          class="grid cursor-pointer place-items-center rounded-glass border-2 px-0.5 text-center text-sm leading-tight font-semibold has-focus-visible:outline-3 has-focus-visible:outline-accent"
          :class="[type === k ? 'chosen' : 'border-hair', k === 'rough' && 'border-dashed']"
        >
          <input v-model="type" type="radio" :value="k" class="sr-only" />
          {{ say(`bench.types.${k}`) }}
        </label>
      </div>
      <div v-else class="grid h-12 grid-cols-3 gap-1 short:h-11">
        <template v-if="running">
          <button
            v-for="a in actions"
            :key="a"
            type="button"
            class="button button-low"
            aria-describedby="reading-help"
            @click="act(a)"
          >
            {{ say(`bench.actions.${a}`) }}
          </button>
        </template>
      </div>
      <div v-if="samples.length" class="mt-1 flex h-12 items-center gap-2">
        <template v-if="expect?.may?.find((m) => m.type === type)?.sample">
          <label for="of-sample" class="label">{{ say('bench.ofSample') }}</label>
          <select id="of-sample" v-model="sample" class="field">
            <option v-for="name in samples" :key="name" :value="name">{{ name }}</option>
          </select>
        </template>
      </div>
      <WhichTrial v-model="chosen" :opened="opened" :name-of="nameOf" @chosen="focus" />
      <label for="reading" class="mt-1 block truncate leading-6 font-semibold">
        {{ what.mark }} <span class="text-quiet">{{ say('bench.of') }} {{ what.of }}</span>
      </label>
      <div class="flex items-center gap-2">
        <input
          id="reading"
          ref="box"
          v-model="text"
          class="figure h-14 w-full min-w-0 rounded-glass border-2 border-accent bg-glass px-3 text-right text-[2.25rem] font-semibold read-only:border-hair read-only:bg-well"
          :inputmode="coarse ? 'none' : 'decimal'"
          autocomplete="off"
          :placeholder="closed ? '' : expect?.proposal"
          :readonly="closed !== ''"
          enterkeyhint="done"
          maxlength="24"
          :aria-invalid="problem !== ''"
          aria-describedby="reading-help"
          @beforeinput="keyed"
          @keydown.enter="$event.repeat && $event.preventDefault()"
        />
        <span class="w-10 text-xl">{{ notebook.sheet.units.volume }}</span>
      </div>
      <div
        id="reading-help"
        class="h-[4rem] overflow-y-auto short:h-11 py-1 text-sm leading-snug text-quiet"
        tabindex="-1"
      >
        <p v-if="closed" class="font-semibold text-rough" role="status">{{ closed }}</p>
        <p v-else-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
        <p v-else-if="ahead.length">
          {{ say('bench.ahead') }} <span class="figure font-semibold">{{ ahead.map((a) => a.text).join(', ') }}</span>
        </p>
        <p v-else-if="expect?.proposal">{{ say('bench.accept', { reading: expect.proposal }) }}</p>
        <p v-else-if="running">{{ say('bench.runningHelp') }}</p>
      </div>
    </div>
    <div class="min-w-0">
      <NumberPad :closed="closed !== ''" @type="press" @back="text = text.slice(0, -1)" />
      <button
        type="submit"
        class="button-main mt-1.5 min-h-13 w-full text-xl short:min-h-11"
        :aria-disabled="closed !== ''"
        data-test="record"
      >
        {{ say('bench.record') }}
      </button>
      <div class="mt-1.5 h-12">
        <button v-if="running" type="button" class="button relative h-12 w-full overflow-hidden" @click="emit('timer')">
          <span
            v-if="timing === 'end-colour'"
            class="absolute inset-y-0 left-0 bg-tint"
            :style="{ width: `${100 * (1 - left / notebook.sheet.setting.hold)}%` }"
            aria-hidden="true"
          />
          <span class="relative">{{
            timing === 'end-colour'
              ? say('bench.timerRuns', { left: Math.ceil(left) })
              : say('bench.timerStart', { seconds: notebook.sheet.setting.hold })
          }}</span>
        </button>
        <ChoiceGroup
          v-else-if="ended"
          wide
          :label="say('bench.colourOf', { trial: ended.name })"
          :options="colours.map((value) => ({ value, text: say(`bench.colours.${value}`) }))"
          :now="ended.endColour"
          @choose="(c) => emit('colour', c)"
        />
      </div>
    </div>
  </form>
</template>
