<script setup lang="ts">
// Whether the titres agree: drawn on one axis, and said.
import type { Notebook } from '@/api/client';
import AgreementStrip from '@/features/bench/trials/AgreementStrip.vue';
import { say } from '@/words';

defineProps<{ notebook: Notebook; small: boolean }>();
</script>

<template>
  <section class="sheet" :aria-label="say('bench.agreement')">
    <AgreementStrip :notebook="notebook" :small="small" />
    <p
      class="font-semibold"
      :class="notebook.sheet.agreement.status === 'agreed' && 'text-agree'"
      data-test="agreement"
    >
      {{ notebook.sheet.agreement.text }}
    </p>
  </section>
</template>
