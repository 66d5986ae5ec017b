<script setup lang="ts">
// The large entry: a number pad alone, or a finger alone, drives it.
import { BackspaceIcon } from '@heroicons/vue/24/outline';
import { useMediaQuery } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, watch } from 'vue';
import type { Notebook } from '@/api/client';
import type { TrialType } from '@/notebook/useBench';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; busy: boolean; problem: string; timing: string; left: number }>();
const emit = defineEmits<{
  record: [text: string, opens: TrialType];
  note: [text: string];
  refill: [text: string];
  again: [text: string];
  timer: [];
}>();
const text = defineModel<string>({ required: true });

const coarse = useMediaQuery('(pointer: coarse)');
const box = ref<HTMLInputElement>();
const expect = computed(() => props.notebook.sheet.next.entry);
const types: TrialType[] = ['rough', 'accurate', 'blank', 'practice'];
const type = ref<TrialType>('accurate');
watch(expect, (e) => e?.opens && (type.value = e.opens), { immediate: true });

const running = computed(() => expect.value?.trial !== undefined && expect.value.mark === 'end');
const what = computed(() => {
  const trial = props.notebook.sheet.trials.find((t) => t.id === expect.value?.trial);
  return {
    mark: say(`bench.marks.${expect.value?.mark ?? 'start'}`),
    of: trial?.name ?? say(`bench.new.${type.value}`),
  };
});

const digits = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '0', '.'];
const actions = ['note', 'refill', 'again'] as const;

function record() {
  const reading = text.value.trim() || expect.value?.proposal || '';
  emit('record', reading, type.value);
}

function act(action: (typeof actions)[number]) {
  const reading = text.value.trim();
  if (action === 'note') emit('note', reading);
  else if (action === 'refill') emit('refill', reading);
  else emit('again', reading);
}

const focus = () => void nextTick(() => box.value?.focus({ preventScroll: true }));
onMounted(focus);
defineExpose({ focus, act, running });
</script>

<template>
  <form class="panel p-3 sm:p-4" @submit.prevent="record">
    <div
      v-if="expect?.opens"
      class="mb-2 grid grid-cols-4 gap-1.5 max-sm:grid-cols-2"
      role="radiogroup"
      :aria-label="say('bench.type')"
    >
      <label
        v-for="k in types"
        :key="k"
        class="grid min-h-12 cursor-pointer place-items-center rounded-glass border-2 px-1 text-center text-sm font-semibold has-focus-visible:outline-3 has-focus-visible:outline-accent"
        :class="[type === k ? 'border-accent bg-tint' : 'border-hair', k === 'rough' && 'border-dashed']"
      >
        <input v-model="type" type="radio" :value="k" class="sr-only" />
        {{ say(`bench.types.${k}`) }}
      </label>
    </div>
    <label for="reading" class="block font-semibold">
      {{ what.mark }} <span class="text-quiet">{{ say('bench.of') }} {{ what.of }}</span>
    </label>
    <div class="mt-1 flex items-center gap-2">
      <input
        id="reading"
        ref="box"
        v-model="text"
        class="figure h-16 w-full min-w-0 rounded-glass border-2 border-accent bg-glass px-3 text-right text-[2.5rem] font-semibold"
        :inputmode="coarse ? 'none' : 'decimal'"
        autocomplete="off"
        :placeholder="expect?.proposal"
        enterkeyhint="done"
        maxlength="24"
        :aria-invalid="problem !== ''"
        aria-describedby="reading-help"
      />
      <span class="w-10 text-xl">{{ notebook.sheet.units.volume }}</span>
    </div>
    <p
      id="reading-help"
      class="min-h-6 py-1 text-sm"
      :class="problem ? 'font-semibold text-alarm' : 'text-quiet'"
      :role="problem ? 'alert' : undefined"
    >
      <template v-if="problem">{{ problem }}</template>
      <template v-else-if="expect?.proposal">{{ say('bench.accept', { reading: expect.proposal }) }}</template>
    </p>
    <div class="grid grid-cols-3 gap-2">
      <button
        v-for="d in digits"
        :key="d"
        type="button"
        class="button figure text-[1.75rem]"
        tabindex="-1"
        @click="text += d"
      >
        {{ d }}
      </button>
      <button type="button" class="button" tabindex="-1" @click="text = text.slice(0, -1)">
        <BackspaceIcon class="size-8" aria-hidden="true" /><span class="sr-only">{{ say('bench.back') }}</span>
      </button>
    </div>
    <button type="submit" class="button-main mt-2 min-h-14 w-full text-xl" :disabled="busy">
      {{ say('bench.record') }}
    </button>
    <div v-if="running" class="mt-2 grid grid-cols-3 gap-2">
      <button
        v-for="a in actions"
        :key="a"
        type="button"
        class="button px-1 text-sm leading-tight"
        :title="say(`bench.actionsHelp.${a}`)"
        @click="act(a)"
      >
        {{ say(`bench.actions.${a}`) }}
      </button>
      <button type="button" class="button relative col-span-3 overflow-hidden" @click="emit('timer')">
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
    </div>
  </form>
</template>
