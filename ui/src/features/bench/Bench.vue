<script setup lang="ts">
import BenchDesk from '@/features/bench/BenchDesk.vue';
import NotebookFrame from '@/features/notebook/NotebookFrame.vue';

defineProps<{ id: string }>();
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook, whole, stuck }" brief>
    <BenchDesk :key="notebook.id" :notebook="notebook" :whole="whole" :stuck="stuck" />
  </NotebookFrame>
</template>
