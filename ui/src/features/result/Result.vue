<script setup lang="ts">
import { ref } from 'vue';
import Figures from '@/features/result/Figures.vue';
import OriginDialog from '@/features/result/OriginDialog.vue';
import NotebookFrame from '@/shared/NotebookFrame.vue';
import Tex from '@/shared/Tex.vue';

defineProps<{ id: string }>();
const from = ref('');
const unrounded = ref(false);
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
        <h2 class="text-xl font-bold">{{ $t('result.working') }}</h2>
        <p class="mb-4 text-sm text-quiet">{{ $t('result.whereFrom') }}</p>
        <p class="mb-4 text-lg"><Tex :source="notebook.sheet.setting.equationLatex" /></p>
        <ol class="grid gap-5">
          <li v-for="(step, i) in notebook.sheet.answer.steps" :key="i">
            <h3 class="mb-1 font-semibold">{{ i + 1 }}. {{ step.title }}</h3>
            <Figures :tokens="step.tokens" @from="(n) => (from = n)" />
          </li>
        </ol>
        <p class="mt-5 border-t border-hair pt-3">{{ notebook.sheet.agreement }}</p>
      </section>
      <OriginDialog v-if="from" :key="from" :answer="notebook.sheet.answer" :node="from" @close="from = ''" />
    </div>
    <div v-else class="panel p-6">
      <p class="mb-2 text-xl font-semibold">
        {{ $t(notebook.sheet.evaluation.withheld ? 'result.withheld' : 'result.notYet') }}
      </p>
      <p class="mb-4">{{ notebook.sheet.agreement }}</p>
      <RouterLink class="button" :to="{ name: 'bench', params: { id } }">{{ $t('result.toBench') }}</RouterLink>
    </div>
  </NotebookFrame>
</template>
