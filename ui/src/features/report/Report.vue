<script setup lang="ts">
import ReportDesk from '@/features/report/ReportDesk.vue';
import NotebookFrame from '@/features/notebook/NotebookFrame.vue';

defineProps<{ id: string }>();
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook }">
    <ReportDesk :key="notebook.id" :notebook="notebook" />
  </NotebookFrame>
</template>
