<script setup lang="ts">
import BenchDesk from '@/features/bench/BenchDesk.vue';
import { MakingDesk } from '@/features/bench/parts';
import NotebookFrame from '@/features/notebook/NotebookFrame.vue';

defineProps<{ id: string }>();
</script>

<template>
  <NotebookFrame :id="id" v-slot="{ notebook, whole, stuck }" brief>
    <MakingDesk v-if="notebook.sheet.setting.madeOnly" :key="notebook.id" :notebook="notebook" />
    <BenchDesk v-else :key="notebook.id" :notebook="notebook" :whole="whole" :stuck="stuck" />
  </NotebookFrame>
</template>
