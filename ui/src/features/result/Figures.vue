<script setup lang="ts">
// A line of working. Figures are buttons: each says where it comes from.
import type { Schemas } from '@/api/client';
import Tex from '@/shared/Tex.vue';
import { say } from '@/words';

defineProps<{ tokens: Schemas['Token'][]; quiet?: boolean }>();
defineEmits<{ from: [node: string] }>();
</script>

<template>
  <span class="flex min-w-0 flex-wrap items-center gap-x-1.5 gap-y-1 text-lg">
    <template v-for="(t, i) in tokens" :key="i">
      <button
        v-if="t.node && !quiet"
        type="button"
        class="print-keep min-h-11 rounded-glass border border-dotted border-quiet px-2 py-1 hover:border-accent hover:bg-tint"
        @click="$emit('from', t.node)"
      >
        <span class="sr-only">{{ say('result.from') }} {{ t.plain }}</span>
        <Tex :source="t.latex" aria-hidden="true" />
      </button>
      <!-- A formula that is wider than the page scrolls by itself, also with the keyboard. -->
      <Tex
        v-else
        :source="t.latex"
        class="max-w-full overflow-x-auto overflow-y-hidden"
        :tabindex="t.latex.length > 60 ? 0 : undefined"
        :role="t.latex.length > 60 ? 'group' : undefined"
        :aria-label="t.latex.length > 60 ? t.plain : undefined"
      />
    </template>
  </span>
</template>
