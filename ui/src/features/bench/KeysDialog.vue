<script setup lang="ts">
import AppDialog from '@/shared/AppDialog.vue';

const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <AppDialog :title="$t('keys.title')" @close="emit('close')">
    <ul class="grid list-disc gap-2 pl-5">
      <li v-for="k in ['digits', 'slash', 'minus', 'question']" :key="k">{{ $t('keys.' + k) }}</li>
    </ul>
  </AppDialog>
</template>
