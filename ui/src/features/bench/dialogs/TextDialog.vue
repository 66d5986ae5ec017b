<script setup lang="ts">
// Something in words: a note, a batch, where a waste went.
import { useMediaQuery } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useDraft } from '@/device/drafts';
import AppDialog from '@/shared/AppDialog.vue';
import { beginAt } from '@/shared/focus';
import { say } from '@/words';

const props = defineProps<{
  title: string;
  label: string;
  problem: string;
  most: number;
  lines?: number;
  draft: string;
}>();
const emit = defineEmits<{ done: [text: string]; close: [] }>();
const text = useDraft(props.draft, '');
const field = ref<HTMLTextAreaElement>();
beginAt(() => field.value);
const ready = () => text.value.trim() && emit('done', text.value.trim());
// Enter keeps it, as everywhere at the bench, and Shift with it begins a new line; a finger has no
// Shift, and a button.
const several = computed(() => (props.lines ?? 1) > 1);
const coarse = useMediaQuery('(pointer: coarse)');
const enter = (e: KeyboardEvent) => {
  if (e.isComposing || (several.value && (coarse.value || e.shiftKey))) return;
  e.preventDefault();
  if (!e.repeat) ready();
};
</script>

<template>
  <AppDialog :title="title" :typed="text !== ''" @close="emit('close')">
    <form @submit.prevent="ready">
      <p v-if="problem" class="mb-3 font-semibold text-alarm" role="alert">{{ problem }}</p>
      <label class="label" for="in-words">{{ label }}</label>
      <textarea
        id="in-words"
        ref="field"
        v-model="text"
        class="field mb-3 py-2"
        :rows="lines ?? 1"
        :maxlength="most"
        :aria-describedby="several ? 'in-words-keys' : undefined"
        @keydown.enter="enter"
      />
      <p v-if="several && !coarse" id="in-words-keys" class="-mt-2 mb-3 text-sm text-quiet">
        {{ say('dialog.enterKeeps') }}
      </p>
      <button type="submit" class="button-main w-full">{{ say('dialog.keepText') }}</button>
    </form>
  </AppDialog>
</template>
