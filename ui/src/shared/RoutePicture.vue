<script setup lang="ts">
// From the sample to the flask, as a row of vessels: the same picture everywhere.
import type { Schemas } from '@/api/client';
import VesselPicture from '@/shared/VesselPicture.vue';

defineProps<{ route: Schemas['Vessel'][] }>();
</script>

<template>
  <ol class="flex flex-wrap items-stretch gap-y-3">
    <li v-for="(v, i) in route" :key="i" class="flex items-center">
      <span v-if="i" class="px-1 text-center text-2xl text-quiet" aria-hidden="true">→</span>
      <span class="grid max-w-44 min-w-24 justify-items-center px-1 text-center text-sm leading-tight">
        <VesselPicture :kind="v.kind" />
        <span class="font-semibold">{{ v.name }}</span>
        <span v-if="v.amount" class="figure">{{ v.amount }}</span>
        <span v-if="v.factor" class="figure text-accent">× {{ v.factor }}</span>
        <slot :place="i" />
      </span>
    </li>
  </ol>
</template>
