<script setup lang="ts">
// Whether everything recorded has reached the server: a line that is always there, of
// the same size whatever it says. What waits, and what was not taken, is behind it.
import { computed, ref } from 'vue';
import { WaitingDialog } from '@/features/bench/parts';
import { useOutbox } from '@/notebook/outbox';
import { whenMissing } from '@/shared/later';
import { say } from '@/words';

const outbox = useOutbox();
const open = ref(false);
whenMissing(() => (open.value = false));
const state = computed(() => {
  if (outbox.refused.length) return 'refused';
  if (outbox.heldBack.length) return 'held';
  if (!outbox.pending) return 'sent';
  return outbox.trouble === '' ? 'sending' : 'waiting';
});
</script>

<template>
  <button
    type="button"
    class="flex min-h-11 w-44 items-center justify-end gap-2 rounded-glass px-2 text-right text-sm leading-tight hover:bg-tint max-sm:w-28 max-sm:px-1"
    :class="{
      'text-quiet': state === 'sent' || state === 'sending',
      'font-semibold text-rough': state === 'waiting',
      'font-semibold text-alarm': state === 'refused' || state === 'held',
    }"
    data-test="sent"
    :data-state="state"
    @click="open = true"
  >
    <span v-if="state === 'refused'">{{ say('sent.refused', {}, outbox.refused.length) }}</span>
    <span v-else-if="state === 'held'">{{ say('sent.held', {}, outbox.heldBack.length) }}</span>
    <span v-else-if="state === 'sent'">{{ say('sent.all') }}</span>
    <span v-else>{{ say(`sent.${state}`, {}, outbox.pending) }}</span>
    <span
      class="size-2.5 shrink-0 rounded-full border-2 border-current"
      :class="state !== 'sent' && 'bg-current'"
      aria-hidden="true"
    />
  </button>
  <WaitingDialog v-if="open" @close="open = false" />
</template>
