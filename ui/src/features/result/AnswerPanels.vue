<script setup lang="ts">
// One answer: the figure, its working in three ways, how sure it is, and what would
// put it off.
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import CauseList from '@/features/result/CauseList.vue';
import Figures from '@/features/result/Figures.vue';
import OriginDialog from '@/features/result/OriginDialog.vue';
import UncertaintyBars from '@/features/result/UncertaintyBars.vue';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import RoutePicture from '@/shared/RoutePicture.vue';
import Tex from '@/shared/Tex.vue';
import { say } from '@/words';

const props = defineProps<{ answer: Schemas['Answer']; setting: Schemas['Setting']; agreement: string }>();
const from = ref('');
const unrounded = ref(false);
const styles = ['steps', 'factors', 'formula'] as const;
const chosen = ref<(typeof styles)[number]>();
const style = computed(() => chosen.value ?? props.answer.style);
const steps = computed(() =>
  style.value === props.answer.style ? props.answer.steps : (props.answer.others[style.value] ?? []),
);

/** The working as text, for a report that is written elsewhere. */
async function copy(how: 'plain' | 'latex') {
  const lines = steps.value.map((s) => `${s.title}: ${s.tokens.map((t) => t[how]).join(' ')}`);
  await navigator.clipboard.writeText(lines.join('\n'));
  copied.value = how;
}
const copied = ref('');
</script>

<template>
  <div class="grid grid-cols-1 items-start gap-x-10 gap-y-4 lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
    <div class="grid gap-4">
      <section class="border-l-8 border-l-agree py-1 pl-4">
        <p class="mb-2 text-xl">{{ answer.statement }}</p>
        <p class="flex flex-wrap items-baseline gap-x-3 text-[2rem]" data-test="answer">
          <Tex :source="answer.symbol + '='" />
          <strong class="figure">{{ answer.value }}</strong>
          <span>{{ answer.unit }}</span>
        </p>
        <p class="mt-2 text-quiet">{{ answer.figures }}.</p>
        <p v-if="answer.comparison">{{ answer.comparison }}</p>
        <button type="button" class="mt-2 min-h-11 underline" @click="unrounded = !unrounded">
          {{ say(unrounded ? 'result.rounded' : 'result.unrounded') }}
        </button>
        <p v-if="unrounded" class="figure">{{ answer.unrounded }} {{ answer.unit }}</p>
      </section>
      <UncertaintyBars v-if="answer.uncertainty" :uncertainty="answer.uncertainty" />
      <CauseList v-if="answer.causes.length" :causes="answer.causes" :within="answer.within" />
    </div>
    <div class="grid gap-4">
      <section class="sheet">
        <h2 class="mb-2 text-xl font-bold">{{ say(setting.madeOnly ? 'bench.makesOnly' : 'result.route') }}</h2>
        <RoutePicture :route="setting.route" />
      </section>
      <section class="sheet">
        <div class="flex flex-wrap items-center justify-between gap-2">
          <h2 class="text-xl font-bold">{{ say(`result.working.${style}`) }}</h2>
          <ChoiceGroup
            class="text-sm"
            :label="say('result.way')"
            :options="styles.map((value) => ({ value, text: say(`result.ways.${value}`) }))"
            :now="style"
            @choose="(s) => (chosen = s)"
          />
        </div>
        <p class="mb-4 text-sm text-quiet">{{ say('result.whereFrom') }}</p>
        <p class="mb-4 text-lg"><Tex :source="setting.equationLatex" /></p>
        <ol class="grid grid-cols-1 gap-5">
          <li v-for="(step, i) in steps" :key="i">
            <h3 class="mb-1 font-semibold">{{ i + 1 }}. {{ step.title }}</h3>
            <Figures :tokens="step.tokens" @from="(n) => (from = n)" />
          </li>
        </ol>
        <p class="mt-5 border-t border-hair pt-3">{{ agreement }}</p>
        <p class="mt-2 flex flex-wrap gap-3 text-sm">
          <button type="button" class="min-h-11 underline" @click="copy('plain')">
            {{ say('result.copyText') }}
          </button>
          <button type="button" class="min-h-11 underline" @click="copy('latex')">
            {{ say('result.copyLatex') }}
          </button>
          <span role="status" class="self-center text-agree">{{ copied && say('result.copied') }}</span>
        </p>
      </section>
    </div>
    <OriginDialog v-if="from" :key="from" :answer="answer" :node="from" @close="from = ''" />
  </div>
</template>
