<script setup lang="ts">
// One step: a value, its unit, the judgement, a hint, and on request the way.
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import { dropDrafts, useDraft } from '@/device/drafts';
import EntryComments from '@/features/comments/EntryComments.vue';
import Figures from '@/features/result/Figures.vue';
import Tex from '@/shared/Tex.vue';
import { say } from '@/words';

const props = defineProps<{
  number: number;
  draft: string; // where what is half typed is kept
  step: Schemas['WorkStep'];
  mayWrite: boolean;
  line?: Schemas['Token'][];
  write: (text: string, unit: string) => Promise<string | undefined>;
}>();

const value = useDraft(props.draft + '.value', props.step.answer?.text ?? '');
const unit = useDraft(props.draft + '.unit', props.step.answer?.unit ?? '');
const problem = ref('');
const shown = ref(false);
const good = computed(() => ['right', 'many-figures', 'few-figures'].includes(props.step.verdict ?? ''));

async function give() {
  if (!value.value.trim()) return;
  problem.value = (await props.write(value.value.trim(), unit.value)) ?? '';
  if (!problem.value) dropDrafts(props.draft);
}
</script>

<template>
  <li class="border-b border-hair pb-4 last:border-0">
    <form class="grid gap-1" @submit.prevent="give">
      <label :for="'step-' + number" class="font-semibold">{{ number }}. {{ step.title }}</label>
      <div class="flex flex-wrap items-center gap-2">
        <span class="text-lg"><Tex :source="step.symbol + '='" /></span>
        <input
          :id="'step-' + number"
          v-model="value"
          class="field figure w-40 text-right text-lg"
          inputmode="decimal"
          autocomplete="off"
          maxlength="24"
          :disabled="!mayWrite"
        />
        <select v-model="unit" class="field w-36" :aria-label="say('work.unit')" :disabled="!mayWrite">
          <option value="" disabled>{{ say('work.unit') }}</option>
          <option v-for="u in step.units" :key="u.code" :value="u.code">{{ u.text }}</option>
        </select>
        <button
          v-if="mayWrite"
          type="submit"
          class="button"
          :disabled="!value.trim() || (!unit && /^[-+\d.,\s]*$/.test(value))"
        >
          {{ say('work.give') }}
        </button>
        <button v-if="line" type="button" class="min-h-11 px-1 underline" @click="shown = !shown">
          {{ say(shown ? 'work.hide' : 'work.show') }}
        </button>
      </div>
      <p v-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
      <p v-if="step.verdictText" role="status" class="font-semibold" :class="good ? 'text-agree' : 'text-rough'">
        <span aria-hidden="true">{{ good ? '✓' : '✗' }}</span> {{ step.verdictText }}
        <span v-if="step.hint" class="font-normal text-ink">{{ step.hint }}</span>
      </p>
      <p v-else-if="step.answer && step.hint" role="status" class="font-semibold text-rough">{{ step.hint }}</p>
      <p v-else-if="step.answer" class="text-sm text-quiet">{{ say('work.kept') }}</p>
      <p v-if="step.struck?.length" class="text-sm text-quiet">
        <s v-for="(s, i) in step.struck" :key="i" class="figure mr-2">{{ s.text }}</s>
      </p>
      <EntryComments v-if="step.answer" :entries="[step.answer.entry]" :what="step.title" />
      <Figures v-if="shown && line" :tokens="line" quiet />
    </form>
  </li>
</template>
