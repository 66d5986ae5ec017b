<script setup lang="ts">
import OwnMarks from '@/features/marking/OwnMarks.vue';
import NotebookFrame from '@/features/notebook/NotebookFrame.vue';

defineProps<{ id: string }>();
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook }">
    <OwnMarks :key="notebook.id" :notebook="notebook" />
  </NotebookFrame>
</template>
