<script setup lang="ts">
import { say } from '@/words';
</script>

<template>
  <div class="panel mx-auto mt-8 max-w-xl p-6">
    <h1 class="mb-4 text-xl font-bold">{{ say('common.nowhere') }}</h1>
    <RouterLink :to="{ name: 'home' }" class="button">{{ say('common.toShelf') }}</RouterLink>
  </div>
</template>
