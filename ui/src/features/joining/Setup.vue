<script setup lang="ts">
// The first start: whoever opens the printed link becomes the administrator.
import { useMutation } from '@tanstack/vue-query';
import { computed } from 'vue';
import { setUp } from '@/api/classes';
import { useAbout } from '@/api/queries';
import NewPersonForm from '@/features/joining/NewPersonForm.vue';
import { useSession } from '@/session/session';
import { say } from '@/words';

const props = defineProps<{ token: string }>();
const session = useSession();
const about = useAbout();
const enter = useMutation({
  mutationFn: (who: { name: string; username: string; password: string }) =>
    session.enter(() => setUp({ token: props.token, ...who })),
});
const over = computed(() => about.data.value?.awaitsSetup === false);
</script>

<template>
  <section class="panel mx-auto mt-6 max-w-md p-6">
    <h1 class="mb-2 text-2xl font-bold">{{ say('setup.title') }}</h1>
    <template v-if="over">
      <p class="mb-4">{{ say('setup.over') }}</p>
      <RouterLink class="button" :to="{ name: 'sign-in' }">{{ say('signIn.go') }}</RouterLink>
    </template>
    <p v-else class="mb-4 text-quiet">{{ say('setup.text') }}</p>
    <NewPersonForm
      v-if="!over"
      :go="say('setup.go')"
      :busy="enter.isPending.value"
      :error="enter.error.value"
      @done="enter.mutate($event)"
    />
  </section>
</template>
