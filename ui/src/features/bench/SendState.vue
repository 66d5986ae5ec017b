<script setup lang="ts">
// Whether everything recorded has reached the server, and what was not taken.
import { useOutbox } from '@/features/bench/outbox';

const outbox = useOutbox();
</script>

<template>
  <div>
    <p
      v-if="outbox.pending"
      class="mb-2 rounded-glass border border-dashed border-rough bg-glass p-2.5 font-semibold text-rough"
      role="status"
    >
      {{ $t('bench.pending', outbox.pending) }}
    </p>
    <div v-for="(r, i) in outbox.refused" :key="i" class="mb-2 rounded-glass border border-alarm p-2.5" role="alert">
      <p class="font-semibold text-alarm">{{ $t('bench.refused') }}: {{ r.why }}</p>
      <p class="figure text-sm">
        {{ r.entries.map((e) => e.reading?.text ?? e.correction?.value ?? e.note?.text ?? e.kind).join(', ') }}
      </p>
      <button type="button" class="button mt-2" @click="outbox.dismiss(r)">{{ $t('bench.dismiss') }}</button>
    </div>
  </div>
</template>
