<script setup lang="ts">
// A list of what is done before or after: one tap each, with the time.
import { computed } from 'vue';
import type { Notebook } from '@/api/client';
import { timeOf } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; list: 'setup' | 'cleanup'; timing: string; left: number }>();
defineEmits<{ check: [item: string]; checkAll: [items: string[]]; uncheck: [entry: string]; wait: [] }>();
const items = computed(() => props.notebook.sheet[props.list]);
const done = computed(() => items.value.filter((i) => i.done).length);
const time = timeOf;
</script>

<template>
  <details class="sheet" :open="list === 'setup' && ['untouched', 'making'].includes(notebook.sheet.stage)">
    <summary class="print-keep flex min-h-11 items-center gap-2 font-semibold">
      <span>{{ say(`bench.${list}`) }}</span>
      <span class="figure text-quiet">{{ done }}/{{ items.length }}</span>
    </summary>
    <ul class="mt-2 grid gap-1.5 xl:grid-cols-2">
      <li v-for="i in items" :key="i.code" class="flex gap-1.5">
        <button
          type="button"
          class="print-keep flex min-h-12 grow items-center gap-3 rounded-glass border px-3 py-1.5 text-left"
          :class="i.done ? 'border-agree' : 'border-hair hover:border-accent'"
          :aria-pressed="i.done"
          :disabled="!notebook.mayWrite"
          @click="i.done ? $emit('uncheck', i.entry!) : $emit('check', i.code)"
        >
          <span
            class="grid size-7 shrink-0 place-items-center rounded border-2"
            :class="i.done ? 'border-agree text-agree' : 'border-quiet'"
            aria-hidden="true"
            >{{ i.done ? '✓' : '' }}</span
          >
          <span class="grow">{{ i.text }}</span>
          <span v-if="i.at" class="figure text-sm text-quiet">{{ time(i.at) }}</span>
        </button>
        <button
          v-if="i.code === 'leak-wait' && notebook.mayWrite"
          type="button"
          class="button figure min-w-18 whitespace-nowrap px-1"
          :aria-label="say('bench.waitLeak', { seconds: notebook.sheet.setting.wait })"
          @click="$emit('wait')"
        >
          {{ timing === 'leak' ? Math.ceil(left) : notebook.sheet.setting.wait }} s
        </button>
      </li>
    </ul>
    <div v-if="notebook.mayWrite" class="mt-2 flex flex-wrap gap-2">
      <button
        v-if="items.length - done > 1"
        type="button"
        class="button"
        data-test="tick-all"
        @click="
          $emit(
            'checkAll',
            items.filter((i) => !i.done).map((i) => i.code),
          )
        "
      >
        {{ say('bench.tickAll', {}, items.length - done) }}
      </button>
      <slot />
    </div>
  </details>
</template>
