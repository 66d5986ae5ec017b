<script setup lang="ts">
// What a student writes of a report, and the pictures: in their place on its page.
import type { Notebook } from '@/api/client';
import PassageField from '@/features/report/PassageField.vue';
import PictureList from '@/features/report/PictureList.vue';
import type { Bench } from '@/notebook/useBench';

defineProps<{ notebook: Notebook; bench: Bench; mayWrite: boolean }>();
</script>

<template>
  <div class="no-print mt-4 grid gap-4">
    <PassageField
      v-for="p in notebook.sheet.passages"
      :key="p.prompt"
      :passage="p"
      :notebook="notebook.id"
      :bench="bench"
      :people="notebook.people"
      :may-write="mayWrite"
    />
    <PictureList :pictures="notebook.sheet.pictures" :notebook="notebook.id" :bench="bench" :may-write="mayWrite" />
  </div>
</template>
