<script setup lang="ts">
import NotebookFrame from '@/shared/NotebookFrame.vue';
import ReportPage from '@/features/report/ReportPage.vue';

defineProps<{ id: string }>();
const print = () => window.print();
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook }">
    <div class="no-print mb-3 flex gap-2">
      <button type="button" class="button-main" @click="print">{{ $t('report.print') }}</button>
      <a class="button" :href="`/api/notebooks/${id}/document`" download="notebook.json">{{ $t('report.data') }}</a>
    </div>
    <ReportPage :notebook="notebook" />
  </NotebookFrame>
</template>
