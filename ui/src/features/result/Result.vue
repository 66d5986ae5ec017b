<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Notebook } from '@/api/client';
import CauseList from '@/features/result/CauseList.vue';
import Figures from '@/features/result/Figures.vue';
import OriginDialog from '@/features/result/OriginDialog.vue';
import UncertaintyBars from '@/features/result/UncertaintyBars.vue';
import NotebookFrame from '@/shared/NotebookFrame.vue';
import RoutePicture from '@/shared/RoutePicture.vue';
import Tex from '@/shared/Tex.vue';

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
      <section class="panel border-l-8 !border-l-agree p-5">
        <p class="mb-2 text-xl">{{ notebook.sheet.answer.statement }}</p>
        <p class="flex flex-wrap items-baseline gap-x-3 text-[2rem]" data-test="answer">
          <Tex :source="notebook.sheet.answer.symbol + '='" />
          <strong class="figure">{{ notebook.sheet.answer.value }}</strong>
          <span>{{ notebook.sheet.answer.unit }}</span>
        </p>
        <p class="mt-2 text-quiet">{{ notebook.sheet.answer.figures }}.</p>
        <p v-if="notebook.sheet.answer.comparison">{{ notebook.sheet.answer.comparison }}</p>
        <button type="button" class="mt-2 min-h-10 underline" @click="unrounded = !unrounded">
          {{ $t(unrounded ? 'result.rounded' : 'result.unrounded') }}
        </button>
        <p v-if="unrounded" class="figure">{{ notebook.sheet.answer.unrounded }} {{ notebook.sheet.answer.unit }}</p>
      </section>
      <section class="panel p-5">
        <h2 class="mb-2 text-xl font-bold">{{ $t('result.route') }}</h2>
        <RoutePicture :route="notebook.sheet.setting.route" />
      </section>
      <section class="panel p-5">
        <div class="flex flex-wrap items-center justify-between gap-2">
          <h2 class="text-xl font-bold">{{ $t('result.working.' + style(notebook)) }}</h2>
          <div class="flex gap-1.5" role="group" :aria-label="$t('result.way')">
            <button
              v-for="s in styles"
              :key="s"
              type="button"
              class="button !px-3 text-sm"
              :class="style(notebook) === s && '!border-accent bg-tint'"
              :aria-pressed="style(notebook) === s"
              @click="chosen = s"
            >
              {{ $t('result.ways.' + s) }}
            </button>
          </div>
        </div>
        <p class="mb-4 text-sm text-quiet">{{ $t('result.whereFrom') }}</p>
        <p class="mb-4 text-lg"><Tex :source="notebook.sheet.setting.equationLatex" /></p>
        <ol class="grid gap-5">
          <li v-for="(step, i) in steps(notebook)" :key="i">
            <h3 class="mb-1 font-semibold">{{ i + 1 }}. {{ step.title }}</h3>
            <Figures :tokens="step.tokens" @from="(n) => (from = n)" />
          </li>
        </ol>
        <p class="mt-5 border-t border-hair pt-3">{{ notebook.sheet.agreement }}</p>
        <p class="mt-2 flex flex-wrap gap-3 text-sm">
          <button type="button" class="min-h-10 underline" @click="copy(notebook, 'plain')">
            {{ $t('result.copyText') }}
          </button>
          <button type="button" class="min-h-10 underline" @click="copy(notebook, 'latex')">
            {{ $t('result.copyLatex') }}
          </button>
          <span role="status" class="self-center text-agree">{{ copied && $t('result.copied') }}</span>
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
        {{ $t(notebook.sheet.evaluation.withheld ? 'result.withheld' : 'result.notYet') }}
      </p>
      <p class="mb-4">{{ notebook.sheet.agreement }}</p>
      <div class="flex gap-3">
        <RouterLink class="button" :to="{ name: 'bench', params: { id } }">{{ $t('result.toBench') }}</RouterLink>
        <RouterLink
          v-if="notebook.sheet.evaluation.work.length"
          class="button-main"
          :to="{ name: 'work', params: { id } }"
          >{{ $t('result.toWork') }}</RouterLink
        >
      </div>
    </div>
  </NotebookFrame>
</template>
