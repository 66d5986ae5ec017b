<script setup lang="ts">
// Into a class with its code: as who is signed in, as somebody new, or after signing in.
import { useMutation, useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { invitation, join, suggestUsername } from '@/api/classes';
import NewPersonForm from '@/features/joining/NewPersonForm.vue';
import { useSession } from '@/session/session';
import { say } from '@/words';

const props = defineProps<{ code?: string }>();
const router = useRouter();
const session = useSession();
const typed = ref('');
const code = computed(() => props.code ?? '');

const to = useQuery({
  queryKey: computed(() => ['about', 'join', code.value]),
  queryFn: () => invitation(code.value),
  enabled: computed(() => code.value !== ''),
  retry: false,
});
const enter = useMutation({
  mutationFn: (who: { name: string; username: string; password: string } | undefined) =>
    session.enter(() => join({ code: code.value, ...who })),
  onSuccess: () => router.replace({ name: 'home' }),
});
const look = () => typed.value.trim() && router.replace({ name: 'join', params: { code: typed.value.trim() } });
</script>

<template>
  <section class="panel mx-auto mt-6 max-w-md p-6">
    <h1 class="mb-2 text-2xl font-bold">{{ say('join.title') }}</h1>
    <form v-if="!code || to.error.value" class="grid gap-3" @submit.prevent="look">
      <p v-if="to.error.value" role="alert" class="font-semibold text-alarm">{{ to.error.value.message }}</p>
      <div>
        <label class="label" for="join-code">{{ say('join.code') }}</label>
        <input
          id="join-code"
          v-model="typed"
          class="field figure text-xl uppercase"
          autocomplete="off"
          autocapitalize="characters"
          maxlength="20"
          required
        />
      </div>
      <button type="submit" class="button-main">{{ say('join.look') }}</button>
    </form>
    <template v-else-if="to.data.value">
      <p class="mb-4 text-lg">
        {{ say('join.class') }} <strong>{{ to.data.value.class }}</strong> {{ to.data.value.term }}
      </p>
      <div v-if="session.person" class="grid gap-3">
        <button type="button" class="button-main" :disabled="enter.isPending.value" @click="enter.mutate(undefined)">
          {{ say('join.as', { name: session.person.name }) }}
        </button>
        <p v-if="enter.error.value" role="alert" class="font-semibold text-alarm">{{ enter.error.value.message }}</p>
      </div>
      <template v-else>
        <NewPersonForm
          :go="say('join.go')"
          :busy="enter.isPending.value"
          :error="enter.error.value"
          :suggest="(name: string) => suggestUsername(code, name)"
          @done="enter.mutate($event)"
        />
        <p class="mt-4">
          <RouterLink class="underline" :to="{ name: 'sign-in', query: { to: `/join/${code}` } }">{{
            say('join.known')
          }}</RouterLink>
        </p>
      </template>
    </template>
    <p v-else role="status" class="text-quiet">{{ say('common.loading') }}</p>
  </section>
</template>
