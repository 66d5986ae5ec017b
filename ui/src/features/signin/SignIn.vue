<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query';
import { ref } from 'vue';
import { useAbout } from '@/api/queries';
import { useSession } from '@/session/session';
import { say } from '@/words';

const session = useSession();
const { data: about } = useAbout();
const signIn = useMutation({
  mutationFn: (who: { username: string; password: string }) => session.signIn(who.username, who.password),
});
const username = ref('');
const password = ref('');
const demoPassword = 'tide-pool';

// Where it goes on from here is the application's business (App.vue).
const go = (name: string, word: string) => signIn.mutate({ username: name, password: word });
</script>

<template>
  <div class="mx-auto mt-6 grid max-w-3xl gap-6" :class="about?.demo && 'md:grid-cols-2'">
    <form class="panel p-6" @submit.prevent="go(username, password)">
      <div class="mb-4 flex items-center gap-3">
        <img src="/icon.svg" alt="" class="size-10" />
        <h1 class="text-2xl font-bold">Exact Flask</h1>
      </div>
      <p v-if="session.endedFor" class="mb-4 text-quiet" role="status">
        {{ say('signIn.ended', { name: session.endedFor.name }) }}
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
      <p class="mt-3">
        <RouterLink class="link" :to="{ name: 'join' }">{{ say('signIn.join') }}</RouterLink>
      </p>
    </form>
    <section v-if="about?.demo" class="panel p-6">
      <h2 class="mb-1 text-lg font-bold">{{ say('signIn.demo') }}</h2>
      <p class="mb-4 text-sm text-quiet">{{ say('signIn.demoNote') }}</p>
      <ul class="grid gap-2">
        <li v-for="p in about.people" :key="p.username">
          <button type="button" class="button w-full justify-between" @click="go(p.username, demoPassword)">
            <span>{{ p.name }}</span>
            <span class="text-sm font-normal text-quiet">{{
              say(p.role ? `role.${p.role}` : 'standing.administrator')
            }}</span>
          </button>
        </li>
      </ul>
    </section>
  </div>
</template>
