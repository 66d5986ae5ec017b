<script setup lang="ts">
// What was seen, weighed, made and waited for, beside the readings.
import type { Notebook } from '@/api/client';
import { say } from '@/words';

defineProps<{ notebook: Notebook }>();
</script>

<template>
  <section v-if="notebook.sheet.log.length || notebook.sheet.notes.length" class="sheet">
    <h2 class="label mb-1">{{ say('bench.log') }}</h2>
    <ul class="list-disc pl-5">
      <li v-for="(l, i) in notebook.sheet.log" :key="i" :class="l.withdrawn && 'line-through'">
        <span v-if="l.what" class="text-quiet">{{ l.what }}:</span> {{ l.text }}
      </li>
      <li v-for="n in notebook.sheet.notes" :key="n.entry" :class="n.withdrawn && 'line-through'">{{ n.text }}</li>
    </ul>
  </section>
</template>
