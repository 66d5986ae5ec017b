<script setup lang="ts">
import { ArrowRightStartOnRectangleIcon } from '@heroicons/vue/24/outline';
import { computed, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useMe, useSignOut } from '@/api/queries';
import { useOutbox } from '@/notebook/outbox';
import { applyTheme } from '@/shared/theme';
import Trouble from '@/shared/Trouble.vue';
import { say, speak } from '@/words';

const route = useRoute();
const router = useRouter();
const { data: me, error, refetch } = useMe();
const signOut = useSignOut();
const outbox = useOutbox();

const open = computed(() => route.meta.open === true);

watch([me, open], ([person, isOpen]) => {
  if (person) {
    outbox.open(person.id);
    applyTheme(person.preferences.theme);
    speak(person.preferences.words || 'titre');
  }
  // Nobody signed in: to the door, and back here afterwards.
  if (person === null && !isOpen) void router.replace({ name: 'sign-in', query: { to: route.fullPath } });
});

async function leave() {
  await signOut.mutateAsync();
  await router.push({ name: 'sign-in' });
}
</script>

<template>
  <a href="#content" class="no-print sr-only focus:not-sr-only focus:absolute focus:z-10 focus:bg-glass focus:p-3">{{
    say('app.skip')
  }}</a>
  <header v-if="me && !open" class="no-print border-b border-hair bg-glass">
    <div class="mx-auto flex max-w-[1400px] items-center gap-x-4 gap-y-1 px-4 py-1">
      <RouterLink :to="{ name: 'shelf' }" class="flex min-h-12 items-center gap-2 font-bold text-ink no-underline">
        <img src="/icon.svg" alt="" class="size-8" />
        <span class="max-sm:sr-only">Exact Flask</span>
      </RouterLink>
      <nav class="ml-auto flex items-center gap-1" aria-label="Exact Flask">
        <RouterLink :to="{ name: 'shelf' }" class="rounded-glass px-3 py-3 font-semibold hover:bg-tint">{{
          say('app.shelf')
        }}</RouterLink>
        <RouterLink
          :to="{ name: 'catalogue' }"
          class="rounded-glass px-3 py-3 font-semibold hover:bg-tint max-sm:px-1.5"
          >{{ say('app.catalogue') }}</RouterLink
        >
        <RouterLink
          :to="{ name: 'account' }"
          class="rounded-glass px-3 py-3 font-semibold hover:bg-tint max-sm:max-w-24 max-sm:truncate max-sm:px-1.5"
          :title="say('app.account')"
          >{{ me.name }}</RouterLink
        >
        <button type="button" class="grid size-12 place-items-center rounded-glass hover:bg-tint" @click="leave">
          <ArrowRightStartOnRectangleIcon class="size-6" aria-hidden="true" />
          <span class="sr-only">{{ say('app.signOut') }}</span>
        </button>
      </nav>
    </div>
  </header>
  <main id="content" class="mx-auto max-w-[1400px] px-4 py-4 print:p-0">
    <Trouble v-if="error && !open" :error="error" @again="refetch()" />
    <RouterView v-else-if="me || open" />
  </main>
</template>
