<script setup lang="ts">
// Signing out while something waits: it stays for whoever typed it, and for nobody else.
import { useOutbox } from '@/notebook/outbox';
import { useSession } from '@/session/session';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

defineEmits<{ stay: []; leave: [] }>();
const outbox = useOutbox();
const session = useSession();
</script>

<template>
  <AppDialog :title="say('leaving.title')" @close="$emit('stay')">
    <p class="mb-4">{{ say('leaving.text', { name: session.person?.name ?? '' }, outbox.all.length) }}</p>
    <div class="flex flex-wrap gap-2">
      <button type="button" class="button-main" @click="$emit('stay')">{{ say('leaving.stay') }}</button>
      <button type="button" class="button" @click="$emit('leave')">{{ say('leaving.go') }}</button>
    </div>
  </AppDialog>
</template>
