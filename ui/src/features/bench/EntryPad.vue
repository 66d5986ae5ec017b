<script setup lang="ts">
// The large entry: a number pad alone, or a finger alone, drives it.
import { BackspaceIcon } from '@heroicons/vue/24/outline';
import { useMediaQuery } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Notebook } from '@/api/client';

const props = defineProps<{ notebook: Notebook; busy: boolean; problem: string }>();
const emit = defineEmits<{ record: [text: string, opens: 'rough' | 'accurate'] }>();
const text = defineModel<string>({ required: true });

const { t } = useI18n();
const coarse = useMediaQuery('(pointer: coarse)');
const box = ref<HTMLInputElement>();
const expect = computed(() => props.notebook.sheet.evaluation.next.entry);
const type = ref<'rough' | 'accurate'>('accurate');
watch(expect, (e) => e?.opens && (type.value = e.opens), { immediate: true });

const what = computed(() => {
  const mark = t(expect.value?.mark === 'end' ? 'bench.recordEnd' : 'bench.recordStart');
  const trial = expect.value?.trial;
  const of = trial
    ? props.notebook.sheet.trials[trial]?.name
    : t(type.value === 'rough' ? 'bench.newRough' : 'bench.newAccurate');
  return { mark, of };
});

const digits = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '0', '.'];

function press(key: string) {
  text.value += key;
}

function record() {
  const reading = text.value.trim() || expect.value?.proposal || '';
  emit('record', reading, type.value);
}

const focus = () => void nextTick(() => box.value?.focus({ preventScroll: true }));
onMounted(focus);
defineExpose({ focus });
</script>

<template>
  <form class="panel p-3 sm:p-4" @submit.prevent="record">
    <div v-if="expect?.opens" class="mb-2 flex gap-2" role="radiogroup" :aria-label="$t('bench.type')">
      <label
        v-for="k in ['rough', 'accurate'] as const"
        :key="k"
        class="flex min-h-12 grow cursor-pointer items-center justify-center gap-2 rounded-glass border px-3 font-semibold"
        :class="[type === k ? 'border-accent bg-tint' : 'border-hair', k === 'rough' && 'border-dashed']"
      >
        <input v-model="type" type="radio" :value="k" class="size-5 accent-accent" />
        {{ $t('bench.' + k) }}
      </label>
    </div>
    <label for="reading" class="block font-semibold">
      {{ what.mark }} <span class="text-quiet">{{ $t('bench.of') }} {{ what.of }}</span>
    </label>
    <div class="mt-1 flex items-center gap-2">
      <input
        id="reading"
        ref="box"
        v-model="text"
        class="figure h-16 w-full min-w-0 rounded-glass border-2 border-accent bg-glass px-3 text-right text-[2.5rem] font-semibold"
        :placeholder="expect?.proposal"
        :inputmode="coarse ? 'none' : 'decimal'"
        autocomplete="off"
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
      <template v-else-if="expect?.proposal">{{ $t('bench.accept', { reading: expect.proposal }) }}</template>
    </p>
    <div class="grid grid-cols-3 gap-2">
      <button
        v-for="d in digits"
        :key="d"
        type="button"
        class="button figure min-h-13 text-[1.75rem]"
        tabindex="-1"
        @click="press(d)"
      >
        {{ d }}
      </button>
      <button type="button" class="button min-h-13" tabindex="-1" @click="text = text.slice(0, -1)">
        <BackspaceIcon class="size-8" aria-hidden="true" /><span class="sr-only">{{ $t('bench.back') }}</span>
      </button>
    </div>
    <button type="submit" class="button-main mt-2 min-h-14 w-full text-xl" :disabled="busy">
      {{ $t('bench.record') }}
    </button>
  </form>
</template>
