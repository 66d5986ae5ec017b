<script setup lang="ts">
// While something is on its way: the frame of what comes, and after a second that it is being fetched.
import { useTimeoutFn } from '@vueuse/core';
import { ref } from 'vue';
import { say } from '@/words';

const long = ref(false);
useTimeoutFn(() => (long.value = true), 1000);
</script>

<template>
  <div class="grid gap-3 py-4" role="status" data-test="waiting">
    <span class="block h-6 max-w-72 rounded bg-well" aria-hidden="true"></span>
    <span v-for="n in 4" :key="n" class="block h-4 border-b border-hair" aria-hidden="true"></span>
    <span :class="long ? 'text-sm text-quiet' : 'sr-only'">{{ say('common.loading') }}</span>
  </div>
</template>
