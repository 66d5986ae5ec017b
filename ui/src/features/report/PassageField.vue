<script setup lang="ts">
// One passage of the report. What is typed stays on the device with every key, and goes
// into the notebook when the person pauses; what two devices wrote beside each other is
// put together by the person.
import { useDebounceFn } from '@vueuse/core';
import { computed, onBeforeUnmount, ref } from 'vue';
import type { Schemas } from '@/api/client';
import { useDraft } from '@/device/drafts';
import type { Bench } from '@/notebook/useBench';
import { say } from '@/words';

const props = defineProps<{
  passage: Schemas['ReportPassage'];
  notebook: string;
  bench: Bench;
  people: Record<string, string>;
  mayWrite: boolean;
}>();
const pause = 5_000; // ms without a key until it is written down
const draft = useDraft<{ text: string; over: string[] } | null>(
  `passage.${props.notebook}.${props.passage.prompt}`,
  null,
);
const stands = computed(() => props.passage.stand);
const text = computed(() => draft.value?.text ?? stands.value.at(-1)?.text ?? '');
const both = computed(() => stands.value.length > 1);
const problem = ref('');

const later = useDebounceFn(() => void keep(), pause);
function type(next: string) {
  draft.value = { text: next, over: draft.value?.over ?? stands.value.map((s) => s.entry) };
  void later();
}
async function keep() {
  const now = draft.value;
  if (!now) return;
  if (now.text === (stands.value.length === 1 ? stands.value[0]!.text : '') && !both.value) {
    draft.value = null;
    return;
  }
  problem.value = '';
  try {
    await props.bench.passage(props.passage.prompt, now.text, now.over);
    if (draft.value?.text === now.text) draft.value = null;
    else if (draft.value) draft.value = { text: draft.value.text, over: stands.value.map((s) => s.entry) };
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e);
  }
}
async function take(chosen: string) {
  draft.value = { text: chosen, over: stands.value.map((s) => s.entry) };
  await keep();
}
onBeforeUnmount(() => void keep());
const id = computed(() => 'passage-' + props.passage.prompt);
</script>

<template>
  <!-- What is missing is marked where it is missing. -->
  <div :class="mayWrite && !text && 'border-l-4 border-rough pl-3'">
    <label class="mb-1 block font-bold" :for="id">{{ passage.title }}</label>
    <div v-if="both" class="mb-1 grid gap-2 rounded-glass border border-rough p-2" data-test="both">
      <p class="font-semibold text-rough">{{ say('report.both') }}</p>
      <div v-for="s in stands" :key="s.entry" class="border-l-4 border-hair pl-2">
        <p class="wrap-anywhere whitespace-pre-line">{{ s.text }}</p>
        <p class="text-sm text-quiet">{{ people[s.by ?? ''] }}</p>
        <button v-if="mayWrite" type="button" class="link-strong" @click="take(s.text)">
          {{ say('report.takeThis') }}
        </button>
      </div>
      <button v-if="mayWrite" type="button" class="button" @click="take(stands.map((s) => s.text).join('\n\n'))">
        {{ say('report.takeAll') }}
      </button>
    </div>
    <textarea
      v-else-if="mayWrite"
      :id="id"
      class="field field-sizing-content min-h-24 py-2"
      maxlength="6000"
      :value="text"
      :data-test="id"
      @input="type(($event.target as HTMLTextAreaElement).value)"
      @blur="keep"
    ></textarea>
    <p v-else class="wrap-anywhere whitespace-pre-line">{{ text || say('report.nothingWritten') }}</p>
    <p
      v-if="mayWrite && !both"
      class="text-sm"
      :class="problem ? 'font-semibold text-alarm' : 'text-quiet'"
      role="status"
    >
      {{ problem || say(draft ? 'report.typing' : text ? 'report.kept' : 'report.nothingWritten') }}
    </p>
  </div>
</template>
