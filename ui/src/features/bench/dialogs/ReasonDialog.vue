<script setup lang="ts">
// Asks for a reason, and for a correction first for the right value. Digits
// choose, so that a number pad alone will do.
import { useEventListener } from '@vueuse/core';
import { nextTick, ref } from 'vue';
import { useDraft } from '@/device/drafts';
import AppDialog from '@/shared/AppDialog.vue';
import { beginAt } from '@/shared/focus';
import { say } from '@/words';

const props = defineProps<{
  title: string;
  text: string;
  reasons: string[];
  asksValue?: boolean;
  problem: string;
  draft: string;
}>();
const emit = defineEmits<{ done: [reason: string, value: string]; close: [] }>();

const value = useDraft(props.draft + '.value', '');
const step = ref<'value' | 'reason' | 'words'>(props.asksValue ? 'value' : 'reason');
const words = useDraft(props.draft + '.words', '');
const field = ref<HTMLInputElement>();
const list = ref<HTMLElement>();
const valueField = ref<HTMLInputElement>();

// After the dialog's own focusing, which takes its first button.
beginAt(() => valueField.value ?? list.value?.querySelector('button'));

function valueDone() {
  if (value.value.trim() === '') return;
  step.value = 'reason';
  void nextTick(() => list.value?.querySelector('button')?.focus());
}

function choose(reason: string) {
  emit('done', reason, value.value.trim());
}

function inWords() {
  step.value = 'words';
  void nextTick(() => field.value?.focus());
}

useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (step.value !== 'reason' || e.ctrlKey || e.metaKey || e.altKey) return;
  const n = Number.parseInt(e.key, 10);
  if (n >= 1 && n <= props.reasons.length) {
    e.preventDefault();
    choose(props.reasons[n - 1]!);
  } else if (n === props.reasons.length + 1) {
    e.preventDefault();
    inWords();
  }
});
</script>

<template>
  <AppDialog :title="title" :typed="(value || words) !== ''" @close="emit('close')">
    <p class="mb-3 text-quiet">{{ text }}</p>
    <p v-if="problem" class="mb-3 font-semibold text-alarm" role="alert">{{ problem }}</p>
    <form v-if="step === 'value'" @submit.prevent="valueDone">
      <label class="label" for="right-value">{{ say('dialog.right') }}</label>
      <input
        id="right-value"
        ref="valueField"
        v-model="value"
        class="field figure mb-3 h-16 text-right text-[2rem]"
        inputmode="decimal"
        autocomplete="off"
        maxlength="24"
      />
      <button type="submit" class="button-main w-full">{{ say('dialog.next') }}</button>
    </form>
    <div v-else-if="step === 'reason'" ref="list">
      <p class="label mb-2">
        {{ say('dialog.reason') }} <span class="font-normal">{{ say('dialog.pressDigit') }}</span>
      </p>
      <ul class="grid gap-2">
        <li v-for="(r, i) in reasons" :key="r">
          <button type="button" class="button w-full justify-start" @click="choose(r)">
            <span class="figure w-6 text-quiet">{{ i + 1 }}</span>{{ r }}
          </button>
        </li>
        <li>
          <button type="button" class="button w-full justify-start" @click="inWords">
            <span class="figure w-6 text-quiet">{{ reasons.length + 1 }}</span>{{ say('dialog.inWords') }}
          </button>
        </li>
      </ul>
    </div>
    <form v-else @submit.prevent="words.trim() && choose(words.trim())">
      <label class="label" for="reason-words">{{ say('dialog.otherWords') }}</label>
      <input id="reason-words" ref="field" v-model="words" class="field mb-3" maxlength="300" autocomplete="off" />
      <button type="submit" class="button-main w-full">{{ say('dialog.keep') }}</button>
    </form>
  </AppDialog>
</template>
