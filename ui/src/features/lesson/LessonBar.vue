<script setup lang="ts">
// What the class is told during a lesson: notices, and when it ends with what is still to
// be done.
import { XMarkIcon } from '@heroicons/vue/24/outline';
import { useNow } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Notebook } from '@/api/client';
import { readValue, write } from '@/device/storage';
import { owner } from '@/device/owner';
import { clock, left } from '@/features/lesson/time';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
const place = () => `exactflask.${owner.id}.notices`;
const read = ref(new Set(readValue<string[]>(place()) ?? []));
const notices = computed(() => (props.notebook.notices ?? []).filter((n) => !read.value.has(n.id)));
function put(id: string) {
  read.value = new Set([...read.value, id].slice(-50));
  write(place(), [...read.value]);
}
/** What was said beside an entry, until it is read: with the place where it stands. */
const said = computed(() =>
  props.notebook.role === 'student'
    ? (props.notebook.comments ?? [])
        .filter((c) => !read.value.has(`comment-${c.id}`))
        .map((c) => ({ ...c, at: props.notebook.sheet.trials.find((t) => t.id === c.entry)?.name ?? '' }))
    : [],
);
const now = useNow({ interval: 5_000 });
const minutes = computed(() => (props.notebook.ends ? left(props.notebook.ends, now.value) : undefined));
/** It is over for half an hour at most; then nobody wants to be told. */
const ending = computed(() => minutes.value !== undefined && minutes.value > -30);
</script>

<template>
  <div v-if="notices.length || ending || said.length" class="no-print mb-2 grid gap-1" data-test="lesson">
    <p
      v-if="ending"
      class="rounded-glass bg-well px-3 py-1"
      :class="minutes! <= 10 && 'font-semibold text-rough'"
      role="status"
    >
      {{
        minutes! > 0
          ? say('lesson.ends', { at: clock(notebook.ends!), minutes: minutes! }, minutes!)
          : say('lesson.ended', { at: clock(notebook.ends!) })
      }}
      <template v-if="notebook.sheet.toDo.length">{{
        say('lesson.toDo', { list: notebook.sheet.toDo.join(', ') })
      }}</template>
    </p>
    <div
      v-for="c in said"
      :key="'c' + c.id"
      class="flex items-start justify-between gap-2 rounded-glass border border-accent bg-tint px-3 py-1"
      role="status"
      data-test="said"
    >
      <p class="min-w-0 wrap-anywhere whitespace-pre-line">
        <span class="font-semibold">{{ c.by }}{{ c.at && ` · ${c.at}` }}:</span> {{ c.text }}
      </p>
      <button type="button" class="grid size-9 shrink-0 place-items-center" @click="put(`comment-${c.id}`)">
        <XMarkIcon class="size-5" aria-hidden="true" /><span class="sr-only">{{ say('lesson.read') }}</span>
      </button>
    </div>
    <div
      v-for="n in notices"
      :key="n.id"
      class="flex items-start justify-between gap-2 rounded-glass border border-accent bg-tint px-3 py-1"
      role="status"
    >
      <p class="min-w-0 wrap-anywhere whitespace-pre-line">
        <span class="font-semibold">{{ n.by }}:</span> {{ n.text }}
      </p>
      <button type="button" class="grid size-9 shrink-0 place-items-center" @click="put(n.id)">
        <XMarkIcon class="size-5" aria-hidden="true" /><span class="sr-only">{{ say('lesson.read') }}</span>
      </button>
    </div>
  </div>
</template>
