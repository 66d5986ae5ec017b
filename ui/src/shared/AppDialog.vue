<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue';
import { XMarkIcon } from '@heroicons/vue/24/outline';
import { say } from '@/words';

defineProps<{ title: string }>();
defineEmits<{ close: [] }>();
</script>

<template>
  <Dialog :open="true" class="relative z-20" @close="$emit('close')">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true" />
    <div class="fixed inset-0 flex items-end justify-center overflow-y-auto p-3 sm:items-center">
      <DialogPanel class="panel w-full max-w-lg p-5 text-ink shadow-xl">
        <div class="mb-3 flex items-start justify-between gap-4">
          <DialogTitle class="text-xl font-bold">{{ title }}</DialogTitle>
          <button
            type="button"
            class="-mt-2 -mr-2 grid size-12 place-items-center rounded-glass hover:bg-tint"
            @click="$emit('close')"
          >
            <XMarkIcon class="size-6" aria-hidden="true" /><span class="sr-only">{{ say('dialog.close') }}</span>
          </button>
        </div>
        <slot />
      </DialogPanel>
    </div>
  </Dialog>
</template>
