<script setup lang="ts">
// Lets a classmate write in this notebook from another device.
import type { Notebook } from '@/api/client';
import { dropDrafts, useDraft } from '@/device/drafts';
import { useAddPartner, usePart } from '@/notebook/notebooks';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
const emit = defineEmits<{ close: [] }>();
const add = useAddPartner(() => props.notebook.id);
const part = usePart(() => props.notebook.id);
const username = useDraft('partner.' + props.notebook.id, '');
function take() {
  add.mutate(username.value.trim(), {
    onSuccess: () => {
      username.value = '';
      dropDrafts('partner.' + props.notebook.id);
    },
  });
}
</script>

<template>
  <AppDialog :title="say('bench.partner')" @close="emit('close')">
    <div v-if="notebook.partners.length" class="mb-3">
      <p>{{ say('dialog.partners', { names: notebook.partners.join(', ') }) }}</p>
      <p v-if="part.error.value" class="font-semibold text-alarm" role="alert">{{ part.error.value.message }}</p>
      <div class="mt-2 flex flex-wrap items-center gap-2">
        <button
          v-for="name in notebook.partners"
          :key="name"
          type="button"
          class="button"
          :disabled="part.isPending.value"
          @click="part.mutate(name)"
        >
          {{ say('dialog.part', { name }) }}
        </button>
        <span class="text-sm text-quiet">{{ say('dialog.partWhat') }}</span>
      </div>
    </div>
    <form @submit.prevent="username.trim() && take()">
      <p v-if="add.error.value" class="mb-3 font-semibold text-alarm" role="alert">{{ add.error.value.message }}</p>
      <label class="label" for="partner">{{ say('dialog.partnerName') }}</label>
      <input
        id="partner"
        v-model="username"
        class="field mb-3"
        autocapitalize="none"
        autocomplete="off"
        maxlength="64"
      />
      <button type="submit" class="button-main w-full" :disabled="add.isPending.value">
        {{ say('dialog.partnerAdd') }}
      </button>
    </form>
  </AppDialog>
</template>
