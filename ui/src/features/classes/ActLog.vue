<script setup lang="ts">
// Who changed what. It cannot be changed itself.
import { ref } from 'vue';
import { useActs } from '@/api/classes';
import { secondOf } from '@/shared/when';
import { say } from '@/words';

// Of a class; without one, what administrators changed.
const props = defineProps<{ classId?: string; title: string }>();
const before = ref(0);
const open = ref(false);
const { data: lines } = useActs(() => props.classId, before);
const when = (at: string) => secondOf(at);
</script>

<template>
  <details class="sheet" data-test="log" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="min-h-11 py-2 text-lg font-bold">{{ title }}</summary>
    <ul v-if="lines" class="mt-2 grid gap-1">
      <li v-for="l in lines" :key="l.seq" class="flex flex-wrap gap-x-3 border-t border-hair py-1">
        <span class="text-sm text-quiet">{{ when(l.at) }}</span>
        <span class="grow wrap-anywhere">{{ l.text }}</span>
      </li>
      <li v-if="!lines.length" class="text-quiet">{{ say('class.logEnd') }}</li>
    </ul>
    <div class="mt-2 flex gap-2">
      <button v-if="before" type="button" class="button" @click="before = 0">{{ say('class.logNewest') }}</button>
      <button
        v-if="lines && lines.length >= 100"
        type="button"
        class="button"
        @click="before = lines[lines.length - 1]!.seq"
      >
        {{ say('class.logOlder') }}
      </button>
    </div>
  </details>
</template>
