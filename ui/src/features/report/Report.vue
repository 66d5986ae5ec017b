<script setup lang="ts">
import ReportDesk from '@/features/report/ReportDesk.vue';
import NotebookFrame from '@/shared/NotebookFrame.vue';

defineProps<{ id: string }>();
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook }">
    <ReportDesk :key="notebook.id" :notebook="notebook" />
  </NotebookFrame>
</template>
