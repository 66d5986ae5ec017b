<script setup lang="ts">
// A formula set by KaTeX. The source is made by the core, never typed.
import katex from 'katex';
import 'katex/dist/katex.min.css';
import { computed } from 'vue';

const props = defineProps<{ source: string; display?: boolean }>();
const html = computed(() =>
  katex.renderToString(props.source, { throwOnError: false, displayMode: props.display, output: 'htmlAndMathml' }),
);
</script>

<template>
  <!-- eslint-disable-next-line vue/no-v-html -->
  <span v-html="html" />
</template>
