<script setup lang="ts">
import BenchDesk from '@/features/bench/BenchDesk.vue';
import NotebookFrame from '@/shared/NotebookFrame.vue';

defineProps<{ id: string }>();
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook }">
    <BenchDesk :key="notebook.id" :notebook="notebook" />
  </NotebookFrame>
</template>
