<script setup lang="ts">
import { ref } from 'vue';
import AnswerPanels from '@/features/result/AnswerPanels.vue';
import SampleList from '@/features/result/SampleList.vue';
import NotebookFrame from '@/features/notebook/NotebookFrame.vue';
import { say } from '@/words';

defineProps<{ id: string }>();
/** Of several samples the one whose working is shown. */
const shown = ref(0);
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook }">
    <AnswerPanels
      v-if="notebook.sheet.answer"
      :answer="notebook.sheet.answer"
      :setting="notebook.sheet.setting"
      :agreement="notebook.sheet.agreement.text"
    />
    <div v-else-if="notebook.sheet.samples?.some((s) => s.answer)" class="grid grid-cols-1 gap-4">
      <SampleList v-model="shown" :samples="notebook.sheet.samples" />
      <AnswerPanels
        v-if="notebook.sheet.samples[shown]?.answer"
        :key="shown"
        :answer="notebook.sheet.samples[shown]!.answer!"
        :setting="notebook.sheet.setting"
        :agreement="notebook.sheet.samples[shown]!.agreement"
      />
    </div>
    <div v-else class="sheet">
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
