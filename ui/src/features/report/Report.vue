<script setup lang="ts">
import { useReport } from '@/api/queries';
import ReportPage from '@/features/report/ReportPage.vue';
import NotebookFrame from '@/shared/NotebookFrame.vue';
import Trouble from '@/shared/Trouble.vue';
import { say } from '@/words';

const props = defineProps<{ id: string }>();
const { data: report, error, refetch } = useReport(() => props.id);
const print = () => window.print();
</script>

<template>
  <NotebookFrame :id="id">
    <div class="no-print mb-3 flex gap-2">
      <button type="button" class="button-main" @click="print">{{ say('report.print') }}</button>
      <a class="button" :href="`/api/notebooks/${id}/document`" download>{{ say('report.data') }}</a>
    </div>
    <ReportPage v-if="report" :report="report" />
    <Trouble v-else-if="error" :error="error" @again="refetch()" />
    <p v-else class="p-6 text-quiet" role="status">{{ say('common.loading') }}</p>
  </NotebookFrame>
</template>
