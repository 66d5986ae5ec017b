<script setup lang="ts">
// The practicals that belong together, in one line: which are done, and which this is.
import type { Schemas } from '@/api/client';
import { say } from '@/words';

defineProps<{ parts: Schemas['SequencePart'][]; here: string }>();
</script>

<template>
  <ol class="flex flex-wrap items-center gap-x-2 gap-y-1" :aria-label="say('shelf.sequence')" data-test="sequence">
    <li v-for="(p, i) in parts" :key="p.practical" class="flex items-center gap-2">
      <span v-if="i" aria-hidden="true" class="text-quiet">→</span>
      <component
        :is="p.notebook && p.practical !== here ? 'RouterLink' : 'span'"
        :to="p.notebook && { name: 'bench', params: { id: p.notebook } }"
        class="inline-flex min-h-8 items-center"
        :class="p.practical === here ? 'font-bold' : p.notebook && 'underline'"
        :aria-current="p.practical === here ? 'step' : undefined"
      >
        {{ i + 1 }}. {{ p.title }}
      </component>
      <span v-if="p.text" class="text-sm" :class="p.done || p.handedIn ? 'text-agree' : 'text-quiet'">{{
        p.handedIn ? say('shelf.partIn') : p.text
      }}</span>
    </li>
  </ol>
</template>
