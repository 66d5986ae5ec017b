<script setup lang="ts">
// One's own password.
import { computed, ref } from 'vue';
import { useChangePassword } from '@/session/password';
import { useSession } from '@/session/session';
import TextField from '@/shared/TextField.vue';
import { say } from '@/words';

const session = useSession();
const me = computed(() => session.person);
const change = useChangePassword();
const old = ref('');
const wanted = ref('');
const again = ref('');
const differs = computed(() => again.value !== '' && again.value !== wanted.value);

async function save() {
  if (wanted.value !== again.value) return;
  await change.mutateAsync({ old: old.value, new: wanted.value }).then(
    () => (old.value = wanted.value = again.value = ''),
    () => undefined, // said below
  );
}
</script>

<template>
  <section class="sheet">
    <h2 class="mb-2 text-xl font-bold">{{ say('account.password') }}</h2>
    <p v-if="me?.mustChange" role="alert" class="mb-3 font-semibold text-alarm">{{ say('account.mustChange') }}</p>
    <form class="grid max-w-sm gap-3" @submit.prevent="save">
      <input type="text" autocomplete="username" class="hidden" :value="me?.username" readonly />
      <TextField
        v-model="old"
        name="password-old"
        :label="say('account.passwordOld')"
        type="password"
        autocomplete="current-password"
        required
      />
      <TextField
        v-model="wanted"
        name="password-new"
        :label="say('account.passwordNew')"
        type="password"
        autocomplete="new-password"
        minlength="8"
        maxlength="256"
        required
      />
      <TextField
        v-model="again"
        name="password-again"
        :label="say('account.passwordAgain')"
        type="password"
        autocomplete="new-password"
        required
      />
      <p v-if="differs" class="text-alarm">{{ say('account.passwordDiffers') }}</p>
      <p v-if="change.error.value" role="alert" class="text-alarm">{{ change.error.value.message }}</p>
      <p v-if="change.isSuccess.value" role="status" class="text-agree">{{ say('account.passwordChanged') }}</p>
      <button type="submit" class="button" :disabled="change.isPending.value">{{ say('account.passwordGo') }}</button>
    </form>
  </section>
</template>
