<script setup lang="ts">
import { onMounted, ref } from 'vue';
import AppDialog from '@/shared/AppDialog.vue';

defineProps<{ problem: string }>();
const emit = defineEmits<{ done: [note: string]; close: [] }>();
const note = ref('');
const field = ref<HTMLTextAreaElement>();
onMounted(() => setTimeout(() => field.value?.focus()));
</script>

<template>
  <AppDialog :title="$t('dialog.noteTitle')" @close="emit('close')">
    <form @submit.prevent="note.trim() && emit('done', note.trim())">
      <p v-if="problem" class="mb-3 font-semibold text-alarm" role="alert">{{ problem }}</p>
      <textarea
        ref="field"
        v-model="note"
        class="field mb-3 py-2"
        rows="4"
        maxlength="2000"
        :aria-label="$t('dialog.noteTitle')"
      />
      <button type="submit" class="button-main w-full">{{ $t('dialog.keepNote') }}</button>
    </form>
  </AppDialog>
</template>
