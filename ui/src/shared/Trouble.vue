<script setup lang="ts">
import { say } from '@/words';
defineProps<{ error: Error }>();
defineEmits<{ again: [] }>();
</script>

<template>
  <div class="panel mx-auto mt-8 max-w-xl p-6" role="alert">
    <p class="mb-4 text-lg">{{ error.message }}</p>
    <div class="flex gap-3">
      <button type="button" class="button" @click="$emit('again')">{{ say('common.again') }}</button>
      <RouterLink :to="{ name: 'home' }" class="button">{{ say('common.toShelf') }}</RouterLink>
    </div>
  </div>
</template>
