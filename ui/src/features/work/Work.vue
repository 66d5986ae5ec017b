<script setup lang="ts">
import NotebookFrame from '@/features/notebook/NotebookFrame.vue';
import WorkDesk from '@/features/work/WorkDesk.vue';

defineProps<{ id: string }>();
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook }">
    <WorkDesk :key="notebook.id" :notebook="notebook" />
  </NotebookFrame>
</template>
