<script setup lang="ts">
// A dialog fits any height: its title and its close button stay in view, what is
// between scrolls. A touch beside it closes it only while nothing is typed in it; the
// phone's Back closes it, and not the view under it.
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue';
import { XMarkIcon } from '@heroicons/vue/24/outline';
import { ref } from 'vue';
import { useBackCloses } from '@/shared/useBackCloses';
import { say } from '@/words';

const props = defineProps<{ title: string; typed?: boolean; wide?: boolean }>();
const emit = defineEmits<{ close: [] }>();
const beside = ref(false);
useBackCloses(() => emit('close'));
function left() {
  // Escape and the close button keep what was typed as a draft; a touch beside is an accident.
  if (props.typed && beside.value) beside.value = false;
  else emit('close');
}
</script>

<template>
  <Dialog :open="true" class="relative z-20" @close="left">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true" />
    <div
      class="fixed inset-0 flex items-end justify-center p-3 sm:items-center short:p-1"
      @pointerdown.self="beside = true"
    >
      <DialogPanel
        class="panel flex max-h-full w-full flex-col text-ink shadow-xl"
        :class="wide ? 'max-w-4xl' : 'max-w-lg'"
      >
        <div class="flex shrink-0 items-start justify-between gap-4 p-5 pb-2 short:p-2">
          <DialogTitle class="text-xl font-bold">{{ title }}</DialogTitle>
          <button
            type="button"
            class="-mt-2 -mr-2 grid size-12 shrink-0 place-items-center rounded-glass hover:bg-tint"
            @click="$emit('close')"
          >
            <XMarkIcon class="size-6" aria-hidden="true" /><span class="sr-only">{{ say('dialog.close') }}</span>
          </button>
        </div>
        <div class="min-h-0 overflow-y-auto p-5 pt-1 short:p-2"><slot /></div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
