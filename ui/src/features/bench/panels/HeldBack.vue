<script setup lang="ts">
// Said at the line when the server takes nothing more for this notebook: why, that it is kept here,
// and the entries as a file.
import { computed } from 'vue';
import { useOutbox } from '@/notebook/outbox';
import { save } from '@/shared/save';
import { say } from '@/words';

const props = defineProps<{ id: string; title: string }>();
const outbox = useOutbox();
const why = computed(() => outbox.heldWhy[props.id]);
const kept = computed(() => outbox.heldBack.filter((w) => w.notebook === props.id).map((w) => w.entry));
const file = () =>
  save(new Blob([JSON.stringify(kept.value, null, 1)], { type: 'application/json' }), `${props.title}.json`);
</script>

<template>
  <div
    v-if="why && kept.length"
    class="mb-2 flex flex-wrap items-center gap-3 rounded-glass border border-alarm p-3"
    role="alert"
    data-test="held-back"
  >
    <p class="min-w-0 grow font-semibold text-alarm">{{ say('sent.heldLine', { why }, kept.length) }}</p>
    <button type="button" class="button shrink-0" @click="file">{{ say('sent.file') }}</button>
    <button type="button" class="button shrink-0" @click="outbox.send()">{{ say('sent.now') }}</button>
  </div>
</template>
