<script setup lang="ts">
// Somebody new: name, user name, password. The user name is made of the name, and can
// be changed before it is taken.
import { ref } from 'vue';
import TextField from '@/shared/TextField.vue';
import { say } from '@/words';

const props = defineProps<{
  go: string;
  busy: boolean;
  error?: Error | null;
  suggest?: (name: string) => Promise<string>;
}>();
defineEmits<{ done: [{ name: string; username: string; password: string }] }>();
const name = ref('');
const username = ref('');
const password = ref('');
const own = ref(false); // the user name was typed

async function suggested() {
  if (own.value || !props.suggest || !name.value.trim()) return;
  username.value = await props.suggest(name.value).catch(() => username.value);
}
</script>

<template>
  <form class="grid gap-3" @submit.prevent="$emit('done', { name, username: username.trim().toLowerCase(), password })">
    <TextField
      v-model="name"
      name="new-name"
      :label="say('person.name')"
      autocomplete="name"
      required
      maxlength="80"
      @change="suggested"
    />
    <TextField
      v-model="username"
      name="new-username"
      :label="say('person.username')"
      autocomplete="username"
      autocapitalize="none"
      required
      maxlength="40"
      @input="own = username !== ''"
    />
    <TextField
      v-model="password"
      name="new-password"
      :label="say('account.passwordNew')"
      type="password"
      autocomplete="new-password"
      required
      minlength="8"
      maxlength="256"
    />
    <p v-if="error" role="alert" class="font-semibold text-alarm">{{ error.message }}</p>
    <button type="submit" class="button-main" :disabled="busy">{{ go }}</button>
  </form>
</template>
