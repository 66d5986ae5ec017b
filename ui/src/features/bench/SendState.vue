<script setup lang="ts">
// Whether everything recorded has reached the server, and what was not taken.
import type { Entry } from '@/api/client';
import { useOutbox } from '@/notebook/outbox';
import { say } from '@/words';

const outbox = useOutbox();
const said = (e: Entry) =>
  e.reading?.text ?? e.correction?.value ?? e.note?.text ?? e.observation?.text ?? e.setAside?.reason ?? e.kind;
</script>

<template>
  <div>
    <p
      v-if="outbox.pending"
      class="mb-2 rounded-glass border border-dashed border-rough bg-glass p-2.5 font-semibold text-rough"
      role="status"
    >
      {{ say('bench.pending', {}, outbox.pending) }}
      <span v-if="outbox.trouble" class="block text-sm font-normal">{{ outbox.why }}</span>
      <template v-if="outbox.full"> {{ say('bench.deviceFull') }}</template>
    </p>
    <div v-for="(r, i) in outbox.refused" :key="i" class="mb-2 rounded-glass border border-alarm p-2.5" role="alert">
      <p class="font-semibold text-alarm">{{ say('bench.refused') }}: {{ r.why }}</p>
      <p class="figure text-sm">
        {{ r.entries.map(said).join(', ') }}
      </p>
      <button type="button" class="button mt-2" @click="outbox.dismiss(r)">{{ say('bench.dismiss') }}</button>
    </div>
  </div>
</template>
