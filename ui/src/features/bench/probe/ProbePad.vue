<script setup lang="ts">
// Two fields for a point: the burette, Enter, what the probe shows, Enter. It has the place
// and the size of the pad for a reading, so that nothing moves when one takes the other's.
import { useMediaQuery } from '@vueuse/core';
import { computed, nextTick, ref } from 'vue';
import type { Notebook } from '@/api/client';
import type { Ahead, PadAction, PointMore } from '@/features/bench/pad/useRecording';
import type { Shown } from '@/features/bench/pad/target';
import { useFirstKey, type ShownHere } from '@/features/bench/pad/useShown';
import WhichTrial from '@/features/bench/pad/WhichTrial.vue';
import NumberPad from '@/features/bench/pad/NumberPad.vue';
import { focusAfterPaint } from '@/shared/focus';
import { say } from '@/words';

const props = defineProps<{
  notebook: Notebook;
  here: ShownHere; // the run that is shown
  settled: boolean; // what is shown is what was recorded last
  problem: string;
  ahead: Ahead[];
  closed: string;
  live?: { text: string; steady: boolean; gone: boolean }; // what a probe that is joined shows
}>();
const emit = defineEmits<{
  act: [action: PadAction, text: string, shown: string, more: PointMore, of: Shown, settled: boolean];
  ran: [burette: string];
}>();
const burette = defineModel<string>({ required: true });
const shown = defineModel<string>('shown', { required: true });
const colour = defineModel<string>('colour', { required: true });
const temperature = defineModel<string>('temperature', { required: true });

const coarse = useMediaQuery('(pointer: coarse)');
const fields = { burette: ref<HTMLInputElement>(), shown: ref<HTMLInputElement>() };
const at = ref<'burette' | 'shown'>('burette');
const { chosen, opened, expect, nameOf, shown: field } = props.here;
const run = computed(() => props.notebook.sheet.runs?.find((r) => r.trial === expect.value?.trial));
const unit = computed(() => props.notebook.sheet.probe?.unit ?? 'pH');
const title = computed(() => say('points.of', { number: (run.value?.count ?? 0) + 1, run: run.value?.name ?? '' }));
const actions = ['refill', 'again', 'end'] as const;

const focus = (field: 'burette' | 'shown' = 'burette') =>
  void nextTick(() => fields[field].value?.focus({ preventScroll: true }));
focusAfterPaint(focus);

const { keyed, firstKey } = useFirstKey(
  props.notebook.id,
  () => burette.value + shown.value,
  () => [field(), props.settled],
);
const more = (): PointMore => ({
  ...(colour.value.trim() && { colour: colour.value.trim() }),
  ...(temperature.value.trim() && { temperature: temperature.value.trim() }),
});

/** Enter in the first field goes to the second, unless what the probe shows is taken. */
function enter() {
  if (props.closed) return;
  if (at.value === 'burette') {
    const reading = burette.value.trim() || (expect.value?.proposal ?? '');
    if (!burette.value.trim()) keyed(); // what is accepted is of what is shown now
    burette.value = reading;
    emit('ran', reading);
    return focus('shown');
  }
  act('point');
}
function act(action: PadAction) {
  if (props.closed) return;
  emit('act', action, burette.value.trim(), shown.value.trim(), more(), ...firstKey());
  focus();
}
/** What the probe shows now is noted. */
function take() {
  if (!props.live || props.live.gone || props.closed) return;
  const seen: PointMore = { ...more(), source: 'probe', ...(!props.live.steady && { unsteady: true }) };
  emit('act', 'point', burette.value.trim(), props.live.text, seen, ...firstKey());
  focus();
}
function type(d: string) {
  keyed();
  if (at.value === 'burette') burette.value += d;
  else shown.value += d;
}
function back() {
  if (at.value === 'burette') burette.value = burette.value.slice(0, -1);
  else shown.value = shown.value.slice(0, -1);
}
// Who comes back goes on in the field where they were.
defineExpose({ focus: () => focus(at.value), act, take, running: computed(() => true) });
</script>

<template>
  <form
    data-many
    class="panel p-3 max-lg:p-2 short:grid short:grid-cols-2 short:gap-x-3 short:p-1.5"
    data-test="pad"
    @submit.prevent="enter"
  >
    <div class="min-w-0">
      <div class="grid h-12 grid-cols-3 gap-1 short:h-11">
        <button
          v-for="a in actions"
          :key="a"
          type="button"
          class="button button-low"
          :class="a === 'end' && run?.next?.past && run.next.tail === 0 && 'chosen'"
          aria-describedby="reading-help"
          :data-test="'pad-' + a"
          @click="act(a)"
        >
          {{ say(`points.actions.${a}`) }}
        </button>
      </div>
      <WhichTrial v-model="chosen" :opened="opened" :name-of="nameOf" @chosen="focus()" />
      <p class="mt-1 block truncate leading-6 font-semibold">{{ title }}</p>
      <div class="grid grid-cols-2 gap-2">
        <label class="grid min-w-0">
          <span class="sr-only">{{ say('points.burette', { unit: notebook.sheet.units.volume }) }}</span>
          <input
            id="reading"
            :ref="fields.burette"
            v-model="burette"
            class="figure h-14 w-full min-w-0 rounded-glass border-2 bg-glass px-2 text-right text-[1.9rem] font-semibold read-only:bg-well"
            :class="at === 'burette' ? 'border-accent' : 'border-hair'"
            :inputmode="coarse ? 'none' : 'decimal'"
            autocomplete="off"
            :placeholder="closed ? '' : expect?.proposal"
            :readonly="closed !== ''"
            enterkeyhint="next"
            maxlength="24"
            :aria-invalid="problem !== ''"
            aria-describedby="reading-help"
            @beforeinput="keyed"
            @focus="at = 'burette'"
          />
        </label>
        <label class="grid min-w-0">
          <span class="sr-only">{{ say('points.shown', { unit }) }}</span>
          <input
            id="shown"
            :ref="fields.shown"
            v-model="shown"
            class="figure h-14 w-full min-w-0 rounded-glass border-2 bg-glass px-2 text-right text-[1.9rem] font-semibold read-only:bg-well"
            :class="at === 'shown' ? 'border-accent' : 'border-hair'"
            :inputmode="coarse ? 'none' : 'decimal'"
            autocomplete="off"
            :placeholder="live && !live.gone ? live.text : ''"
            :readonly="closed !== ''"
            enterkeyhint="done"
            maxlength="24"
            aria-describedby="reading-help"
            @beforeinput="keyed"
            @focus="at = 'shown'"
          />
        </label>
        <span class="text-center text-sm text-quiet" aria-hidden="true">{{ notebook.sheet.units.volume }}</span>
        <span class="text-center text-sm text-quiet">
          <span aria-hidden="true">{{ unit }}</span>
          <button
            v-if="unit === 'mV'"
            type="button"
            class="ml-3 min-h-6 rounded border border-hair px-2 font-semibold text-ink"
            tabindex="-1"
            @mousedown.prevent
            @click="shown = shown.startsWith('-') ? shown.slice(1) : '-' + shown"
          >
            ±
          </button>
        </span>
      </div>
      <div id="reading-help" class="h-[2.75rem] overflow-y-auto py-0.5 text-sm leading-snug text-quiet" tabindex="-1">
        <p v-if="closed" class="font-semibold text-rough" role="status">{{ closed }}</p>
        <p v-else-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
        <p v-else-if="ahead.length">
          {{ say('bench.ahead') }} <span class="figure font-semibold">{{ ahead.map((a) => a.text).join(', ') }}</span>
        </p>
        <p v-else>{{ say('points.help') }}</p>
      </div>
    </div>
    <div class="min-w-0">
      <NumberPad :closed="closed !== ''" @type="type" @back="back" />
      <div class="mt-1.5 grid grid-cols-2 gap-1.5">
        <button
          type="submit"
          class="button-main min-h-13 px-2 text-xl short:min-h-11"
          :class="!live && 'col-span-2'"
          :aria-disabled="closed !== ''"
          data-test="record"
        >
          {{ say(at === 'burette' ? 'points.on' : 'bench.record') }}
        </button>
        <button
          v-if="live"
          type="button"
          class="button min-h-13 px-2 leading-tight short:min-h-11"
          :class="live.steady && !live.gone && 'border-agree text-agree'"
          :disabled="live.gone"
          data-test="take"
          @click="take"
        >
          {{ say('points.take') }} <span class="figure">{{ live.text }}</span>
        </button>
      </div>
      <div class="mt-1.5 grid h-12 grid-cols-[2fr_1fr] gap-1.5">
        <input
          v-model="colour"
          class="field min-w-0"
          :placeholder="say('points.colour')"
          :aria-label="say('points.colour')"
          maxlength="60"
          autocomplete="off"
        />
        <input
          v-model="temperature"
          class="field figure min-w-0"
          placeholder="°C"
          :aria-label="say('points.temperature')"
          maxlength="24"
          inputmode="decimal"
          autocomplete="off"
        />
      </div>
    </div>
  </form>
</template>
