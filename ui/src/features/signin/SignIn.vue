<script setup lang="ts">
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useAbout, useSignIn } from '@/api/queries';
import { say } from '@/words';

const route = useRoute();
const router = useRouter();
const { data: about } = useAbout();
const signIn = useSignIn();
const username = ref('');
const password = ref('');
const demoPassword = 'tide-pool';

async function go(name: string, word: string) {
  try {
    await signIn.mutateAsync({ username: name, password: word });
  } catch {
    return; // shown below
  }
  const to = typeof route.query.to === 'string' && route.query.to.startsWith('/') ? route.query.to : '/shelf';
  await router.push(to);
}
</script>

<template>
  <div class="mx-auto mt-6 grid max-w-3xl gap-6" :class="about?.demo && 'md:grid-cols-2'">
    <form class="panel p-6" @submit.prevent="go(username, password)">
      <div class="mb-4 flex items-center gap-3">
        <img src="/icon.svg" alt="" class="size-10" />
        <h1 class="text-2xl font-bold">Exact Flask</h1>
      </div>
      <p v-if="route.query.to && route.query.to !== '/shelf' && route.query.to !== '/'" class="mb-4 text-quiet">
        {{ say('signIn.ended') }}
      </p>
      <label class="label" for="username">{{ say('signIn.username') }}</label>
      <input
        id="username"
        v-model="username"
        class="field mb-3"
        autocomplete="username"
        autocapitalize="none"
        required
        maxlength="64"
      />
      <label class="label" for="password">{{ say('signIn.password') }}</label>
      <input
        id="password"
        v-model="password"
        class="field mb-4"
        type="password"
        autocomplete="current-password"
        required
        maxlength="256"
      />
      <p v-if="signIn.error.value" class="mb-4 font-semibold text-alarm" role="alert">
        {{ signIn.error.value.message }}
      </p>
      <button type="submit" class="button-main w-full" :disabled="signIn.isPending.value">
        {{ say('signIn.go') }}
      </button>
    </form>
    <section v-if="about?.demo" class="panel p-6">
      <h2 class="mb-1 text-lg font-bold">{{ say('signIn.demo') }}</h2>
      <p class="mb-4 text-sm text-quiet">{{ say('signIn.demoNote') }}</p>
      <ul class="grid gap-2">
        <li v-for="p in about.people" :key="p.username">
          <button type="button" class="button w-full justify-between" @click="go(p.username, demoPassword)">
            <span>{{ p.name }}</span>
            <span class="text-sm font-normal text-quiet">{{ p.role }}</span>
          </button>
        </li>
      </ul>
    </section>
  </div>
</template>
