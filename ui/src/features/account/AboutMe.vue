<script setup lang="ts">
// What one is called, and all that is held about one as a file.
import { useMutation } from '@tanstack/vue-query';
import { ref } from 'vue';
import { useSession } from '@/session/session';
import TextField from '@/shared/TextField.vue';
import { say } from '@/words';

const session = useSession();
const name = ref(session.person?.name ?? '');
const rename = useMutation({ mutationFn: () => session.rename(name.value) });
</script>

<template>
  <section class="sheet">
    <h2 class="mb-2 text-xl font-bold">{{ say('account.me') }}</h2>
    <form class="mb-4 flex max-w-sm items-end gap-2" @submit.prevent="rename.mutate()">
      <TextField
        v-model="name"
        name="my-name"
        :label="say('person.name')"
        class="grow"
        autocomplete="name"
        required
        maxlength="80"
      />
      <button type="submit" class="button" :disabled="rename.isPending.value">{{ say('class.keep') }}</button>
    </form>
    <p v-if="rename.data.value" role="status" class="mb-3 text-agree">{{ say('account.wished') }}</p>
    <p v-if="rename.error.value" role="alert" class="mb-3 text-alarm">{{ rename.error.value.message }}</p>
    <p class="mb-2 text-quiet">{{ say('account.dataText') }}</p>
    <a class="button" :href="`/api/me/data?person=${session.id}`" download>{{ say('account.data') }}</a>
  </section>
</template>
