<script setup lang="ts">
// Everything that the bench offers just now, each under a digit: a number pad alone
// reaches it. Some lead to a list of their own.
import { useEventListener } from '@vueuse/core';
import { computed, nextTick, onMounted, ref } from 'vue';
import type { Choice } from '@/features/bench/dialogs/useChoices';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const props = defineProps<{ choices: Choice[] }>();
const emit = defineEmits<{ close: [] }>();
const path = ref<number[]>([]);
const list = ref<HTMLElement>();

const at = computed(() => path.value.reduce<Choice[]>((now, i) => now[i]?.more ?? now, props.choices));
const title = computed(() => {
  const above = path.value.slice(0, -1).reduce<Choice[]>((now, i) => now[i]?.more ?? now, props.choices);
  return path.value.length ? (above[path.value.at(-1)!]?.text ?? '') : say('choose.title');
});
const digit = (i: number) => (i === 9 ? '0' : String(i + 1));

function choose(i: number) {
  const choice = at.value[i];
  if (!choice) return;
  if (choice.more) {
    path.value = [...path.value, i];
    return focus();
  }
  // A list in which several are ticked stays open.
  if (!choice.stays) emit('close');
  choice.act?.();
}

const focus = () => void nextTick(() => list.value?.querySelector('button')?.focus());
onMounted(() => setTimeout(focus));

useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (e.ctrlKey || e.metaKey || e.altKey) return;
  const i = /^\d$/.test(e.key) ? (Number(e.key) + 9) % 10 : -1;
  if (i >= 0) choose(i);
  else if (e.key === '/' || e.key === '-') {
    if (path.value.length) path.value = path.value.slice(0, -1);
    else emit('close');
    focus();
  } else return;
  e.preventDefault();
});
</script>

<template>
  <AppDialog :title="title" @close="emit('close')">
    <p class="label mb-2">{{ say('choose.how') }}</p>
    <ul ref="list" class="grid gap-2">
      <li v-for="(c, i) in at" :key="c.text">
        <button
          type="button"
          class="button w-full justify-start text-left"
          :class="c.now && 'chosen'"
          :aria-pressed="c.now"
          @click="choose(i)"
        >
          <span class="figure w-6 shrink-0 text-quiet">{{ i < 10 ? digit(i) : '' }}</span>
          <span class="grow">{{ c.text }}</span>
          <span v-if="c.now" aria-hidden="true">✓</span>
          <span v-if="c.more" aria-hidden="true">›</span>
        </button>
      </li>
    </ul>
  </AppDialog>
</template>
