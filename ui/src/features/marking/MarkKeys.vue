<script setup lang="ts">
// The keys of the desk.
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

defineEmits<{ close: [] }>();
const keys = ['enter', 'digit', 'half', 'all', 'move', 'comment', 'undo', 'next', 'open', 'leave'] as const;
</script>

<template>
  <AppDialog :title="say('marking.keys')" @close="$emit('close')">
    <dl class="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
      <template v-for="k in keys" :key="k">
        <dt class="figure font-semibold">{{ say(`marking.key.${k}`) }}</dt>
        <dd>{{ say(`marking.does.${k}`) }}</dd>
      </template>
    </dl>
  </AppDialog>
</template>
