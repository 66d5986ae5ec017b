<script setup lang="ts">
// Why is mine off? Usual faults with sign and size for this titration.
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import { say } from '@/words';

const props = defineProps<{ causes: Schemas['Cause'][]; within?: string }>();
const all = ref(false);
const shown = computed(() => (all.value ? props.causes : props.causes.slice(0, 5)));
</script>

<template>
  <section class="sheet">
    <h2 class="text-xl font-bold">{{ say('result.off') }}</h2>
    <p v-if="within" class="mb-1 text-lg font-semibold text-agree">{{ within }}</p>
    <p class="mb-3 text-sm text-quiet">{{ say('result.offHow') }}</p>
    <ol class="grid gap-2">
      <li
        v-for="c in shown"
        :key="c.code"
        class="rounded-glass border border-hair p-3"
        :class="c.fits && 'border-l-8 border-l-accent'"
      >
        <p class="font-semibold">{{ c.name }}</p>
        <p class="figure text-sm">{{ c.effect }}</p>
        <p v-if="c.needed" class="text-sm text-quiet">
          {{ c.needed }}<strong v-if="c.fits" class="text-accent"> · {{ say('result.fits') }}</strong>
        </p>
      </li>
    </ol>
    <button v-if="causes.length > 5" type="button" class="mt-2 min-h-11 underline" @click="all = !all">
      {{ say(all ? 'result.fewer' : 'result.more') }}
    </button>
  </section>
</template>
