<script setup lang="ts">
// The first start: whoever opens the printed link becomes the administrator.
import { useMutation } from '@tanstack/vue-query';
import { setUp } from '@/api/classes';
import NewPersonForm from '@/features/joining/NewPersonForm.vue';
import { useSession } from '@/session/session';
import { say } from '@/words';

const props = defineProps<{ token: string }>();
const session = useSession();
const enter = useMutation({
  mutationFn: (who: { name: string; username: string; password: string }) =>
    session.enter(() => setUp({ token: props.token, ...who })),
});
</script>

<template>
  <section class="panel mx-auto mt-6 max-w-md p-6">
    <h1 class="mb-2 text-2xl font-bold">{{ say('setup.title') }}</h1>
    <p class="mb-4 text-quiet">{{ say('setup.text') }}</p>
    <NewPersonForm
      :go="say('setup.go')"
      :busy="enter.isPending.value"
      :error="enter.error.value"
      @done="enter.mutate($event)"
    />
  </section>
</template>
