<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Notebook } from '@/api/client';
import CauseList from '@/features/result/CauseList.vue';
import Figures from '@/features/result/Figures.vue';
import OriginDialog from '@/features/result/OriginDialog.vue';
import UncertaintyBars from '@/features/result/UncertaintyBars.vue';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import NotebookFrame from '@/shared/NotebookFrame.vue';
import RoutePicture from '@/shared/RoutePicture.vue';
import Tex from '@/shared/Tex.vue';
import { say } from '@/words';

defineProps<{ id: string }>();
const from = ref('');
const unrounded = ref(false);
const styles = ['steps', 'factors', 'formula'] as const;
type Style = (typeof styles)[number];
const chosen = ref<Style>();
const style = (n: Notebook) => chosen.value ?? n.sheet.answer!.style;
const steps = computed(
  () => (n: Notebook) =>
    style(n) === n.sheet.answer!.style ? n.sheet.answer!.steps : (n.sheet.answer!.others[style(n)] ?? []),
);

/** The working as text, for a report that is written elsewhere. */
async function copy(n: Notebook, how: 'plain' | 'latex') {
  const lines = steps.value(n).map((s) => `${s.title}: ${s.tokens.map((t) => t[how]).join(' ')}`);
  await navigator.clipboard.writeText(lines.join('\n'));
  copied.value = how;
}
const copied = ref('');
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook }">
    <div v-if="notebook.sheet.answer" class="grid gap-4">
      <section class="panel border-l-8 border-l-agree p-5">
        <p class="mb-2 text-xl">{{ notebook.sheet.answer.statement }}</p>
        <p class="flex flex-wrap items-baseline gap-x-3 text-[2rem]" data-test="answer">
          <Tex :source="notebook.sheet.answer.symbol + '='" />
          <strong class="figure">{{ notebook.sheet.answer.value }}</strong>
          <span>{{ notebook.sheet.answer.unit }}</span>
        </p>
        <p class="mt-2 text-quiet">{{ notebook.sheet.answer.figures }}.</p>
        <p v-if="notebook.sheet.answer.comparison">{{ notebook.sheet.answer.comparison }}</p>
        <button type="button" class="mt-2 min-h-10 underline" @click="unrounded = !unrounded">
          {{ say(unrounded ? 'result.rounded' : 'result.unrounded') }}
        </button>
        <p v-if="unrounded" class="figure">{{ notebook.sheet.answer.unrounded }} {{ notebook.sheet.answer.unit }}</p>
      </section>
      <section class="panel p-5">
        <h2 class="mb-2 text-xl font-bold">{{ say('result.route') }}</h2>
        <RoutePicture :route="notebook.sheet.setting.route" />
      </section>
      <section class="panel p-5">
        <div class="flex flex-wrap items-center justify-between gap-2">
          <h2 class="text-xl font-bold">{{ say(`result.working.${style(notebook)}`) }}</h2>
          <ChoiceGroup
            class="text-sm"
            :label="say('result.way')"
            :options="styles.map((value) => ({ value, text: say(`result.ways.${value}`) }))"
            :now="style(notebook)"
            @choose="(s) => (chosen = s)"
          />
        </div>
        <p class="mb-4 text-sm text-quiet">{{ say('result.whereFrom') }}</p>
        <p class="mb-4 text-lg"><Tex :source="notebook.sheet.setting.equationLatex" /></p>
        <ol class="grid gap-5">
          <li v-for="(step, i) in steps(notebook)" :key="i">
            <h3 class="mb-1 font-semibold">{{ i + 1 }}. {{ step.title }}</h3>
            <Figures :tokens="step.tokens" @from="(n) => (from = n)" />
          </li>
        </ol>
        <p class="mt-5 border-t border-hair pt-3">{{ notebook.sheet.agreement.text }}</p>
        <p class="mt-2 flex flex-wrap gap-3 text-sm">
          <button type="button" class="min-h-10 underline" @click="copy(notebook, 'plain')">
            {{ say('result.copyText') }}
          </button>
          <button type="button" class="min-h-10 underline" @click="copy(notebook, 'latex')">
            {{ say('result.copyLatex') }}
          </button>
          <span role="status" class="self-center text-agree">{{ copied && say('result.copied') }}</span>
        </p>
      </section>
      <UncertaintyBars v-if="notebook.sheet.answer.uncertainty" :uncertainty="notebook.sheet.answer.uncertainty" />
      <CauseList
        v-if="notebook.sheet.answer.causes.length"
        :causes="notebook.sheet.answer.causes"
        :within="notebook.sheet.answer.within"
      />
      <OriginDialog v-if="from" :key="from" :answer="notebook.sheet.answer" :node="from" @close="from = ''" />
    </div>
    <div v-else class="panel p-6">
      <p class="mb-2 text-xl font-semibold">
        {{ say(notebook.sheet.withheld ? 'result.withheld' : 'result.notYet') }}
      </p>
      <p class="mb-4">{{ notebook.sheet.agreement.text }}</p>
      <div class="flex gap-3">
        <RouterLink class="button" :to="{ name: 'bench', params: { id } }">{{ say('result.toBench') }}</RouterLink>
        <RouterLink v-if="notebook.sheet.work.length" class="button-main" :to="{ name: 'work', params: { id } }">{{
          say('result.toWork')
        }}</RouterLink>
      </div>
    </div>
  </NotebookFrame>
</template>
