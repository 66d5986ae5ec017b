<script setup lang="ts">
import { ref } from 'vue';
import { type ClassPage } from '@/api/classes';
import { useClassChange } from '@/features/classes/changes';
import AppDialog from '@/shared/AppDialog.vue';
import TextField from '@/shared/TextField.vue';
import { say } from '@/words';

const props = defineProps<{ page: ClassPage }>();
const emit = defineEmits<{ close: [] }>();
const change = useClassChange(() => props.page.id);
const name = ref(props.page.name);
const term = ref(props.page.term);

async function save() {
  await change
    .mutateAsync((a) => a.set({ name: name.value, term: term.value, archived: props.page.archived ?? false }))
    .then(
      () => emit('close'),
      () => undefined, // said below
    );
}
</script>

<template>
  <AppDialog :title="say('class.rename')" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="save">
      <TextField v-model="name" name="rename-name" :label="say('class.name')" required maxlength="80" />
      <TextField
        v-model="term"
        name="rename-term"
        :label="say('class.term')"
        maxlength="40"
        :placeholder="say('class.termExample')"
      />
      <p v-if="change.error.value" role="alert" class="text-alarm">{{ change.error.value.message }}</p>
      <button type="submit" class="button-main">{{ say('class.keep') }}</button>
    </form>
  </AppDialog>
</template>
