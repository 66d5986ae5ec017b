<script setup lang="ts">
import { ArrowRightStartOnRectangleIcon, MagnifyingGlassIcon, UserIcon } from '@heroicons/vue/24/outline';
import { useEventListener } from '@vueuse/core';
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { newerVersion } from '@/api/client';
import { useSettings } from '@/device/settings';
import { device } from '@/device/storage';
import { prepare } from '@/notebook/judge';
import { useHandIns } from '@/notebook/handins';
import { useOutbox } from '@/notebook/outbox';
import { useSession } from '@/session/session';
import { fetchTheRest } from '@/api/parts';
import { loadNewVersion, partMissing } from '@/session/version';
import { keepFocus } from '@/shared/focus';
import { whenIdle } from '@/shared/idle';
import { announced } from '@/shared/announce';
import { later, whenMissing } from '@/shared/later';
import Trouble from '@/shared/Trouble.vue';
import { say } from '@/words';

const FindDialog = later(() => import('@/features/home/FindDialog.vue'));
const LeavingDialog = later(() => import('@/features/signin/LeavingDialog.vue'));

const route = useRoute();
const router = useRouter();
const session = useSession();
const outbox = useOutbox();
useHandIns(); // what was to be handed in without the network
const leaving = ref(false);
const finding = ref(false);
whenMissing(() => (leaving.value = finding.value = false));
// One key finds anything, but at the bench, where it chooses by number, and where something is typed.
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  const at = e.target as HTMLElement | null;
  const typing = at?.matches?.('input, textarea, select, [contenteditable]') || document.querySelector('[role=dialog]');
  if (e.key !== '/' || e.ctrlKey || e.metaKey || e.altKey || typing) return;
  if (!me.value || open.value || route.name === 'bench' || !useSettings().value.keys) return;
  e.preventDefault();
  finding.value = true;
});

const open = computed(() => route.meta.open === true);
const me = computed(() => session.person);
const teaches = computed(() => me.value?.standing || me.value?.classes.some((c) => c.role !== 'student'));

watch([() => session.person, () => route.name], ([now, name], [before]) => {
  if (now === undefined || !name) return; // not known yet
  if (now === null && !open.value) void router.replace({ name: 'sign-in', query: { to: route.fullPath } });
  else if (now?.mustChange && route.name !== 'account') void router.replace({ name: 'account' });
  // Somebody else signed in, here or in another window: nothing of the one before stays.
  else if (now && before && now.id !== before.id) void router.replace({ name: 'home' });
  else if (now && open.value && name !== 'join') void router.replace(goOn(now.id));
});

/** Where one comes back to; what was another's is not theirs. */
function goOn(id: string): string {
  const to = route.query.to;
  const mine = !session.leftBy || session.leftBy === id;
  return mine && typeof to === 'string' && /^\/(?!\/)/.test(to) ? to : '/home';
}

onMounted(() => void keepFocus());

// When nothing else is to be done; the core first, which the bench loads itself.
onMounted(() =>
  setTimeout(
    () =>
      whenIdle(() => {
        if (session.person) prepare();
        void fetchTheRest().catch(() => undefined);
      }),
    5_000,
  ),
);

function leave() {
  if (outbox.all.length && !leaving.value) leaving.value = true;
  else void leaveNow();
}

async function leaveNow() {
  leaving.value = false;
  await session.signOut();
  await router.replace({ name: 'sign-in' });
}
</script>

<template>
  <a href="#content" class="no-print sr-only focus:not-sr-only focus:absolute focus:z-10 focus:bg-glass focus:p-3">{{
    say('app.skip')
  }}</a>
  <p class="sr-only" role="status" aria-live="polite">{{ announced }}</p>
  <!-- While it is not known who is here, as it stands in index.html. -->
  <header v-if="(me || session.person === undefined) && !open" class="no-print border-b border-hair bg-glass">
    <div
      class="mx-auto flex max-w-[1400px] items-center gap-x-4 px-4 py-1 short:py-0 max-sm:gap-x-1 max-sm:px-2 max-sm:py-0"
    >
      <RouterLink
        :to="{ name: 'home' }"
        class="flex min-h-12 min-w-11 items-center gap-2 font-bold text-ink no-underline"
      >
        <img src="/icon.svg" alt="" class="size-8" />
        <span class="max-sm:sr-only">Exact Flask</span>
      </RouterLink>
      <nav v-if="me" class="ml-auto flex min-w-0 items-center gap-1 max-sm:gap-0" aria-label="Exact Flask">
        <RouterLink
          :to="{ name: 'home' }"
          class="rounded-glass px-3 py-3 font-semibold whitespace-nowrap hover:bg-tint max-sm:px-1 max-sm:text-[0.8rem] max-[340px]:hidden"
          >{{ say('app.home') }}</RouterLink
        >
        <RouterLink
          v-if="teaches"
          :to="{ name: 'classes' }"
          class="rounded-glass px-3 py-3 font-semibold whitespace-nowrap hover:bg-tint max-sm:px-1 max-sm:text-[0.8rem]"
          >{{ say('classes.title') }}</RouterLink
        >
        <RouterLink
          :to="{ name: 'catalogue' }"
          class="rounded-glass px-3 py-3 font-semibold whitespace-nowrap hover:bg-tint max-sm:px-1 max-sm:text-[0.8rem]"
          >{{ say('app.catalogue') }}</RouterLink
        >
        <button
          type="button"
          class="grid size-12 shrink-0 place-items-center rounded-glass hover:bg-tint max-sm:w-9"
          data-test="find"
          :title="`${say('find.open')} (/)`"
          @click="finding = true"
        >
          <MagnifyingGlassIcon class="size-5" aria-hidden="true" />
          <span class="sr-only">{{ say('find.open') }}</span>
        </button>
        <RouterLink
          :to="{ name: 'account' }"
          class="flex min-w-0 items-center gap-1.5 rounded-glass px-3 py-3 font-semibold hover:bg-tint max-sm:min-h-12 max-sm:px-1.5 max-sm:py-0"
          :title="say('app.account')"
        >
          <UserIcon class="size-5 shrink-0 max-sm:hidden" aria-hidden="true" />
          <span
            class="truncate max-sm:line-clamp-2 max-sm:text-xs max-sm:leading-tight max-sm:wrap-anywhere max-sm:whitespace-normal"
            data-test="who"
            >{{ me.name }}</span
          >
        </RouterLink>
        <button
          type="button"
          class="grid size-12 shrink-0 place-items-center rounded-glass hover:bg-tint"
          @click="leave"
        >
          <ArrowRightStartOnRectangleIcon class="size-6" aria-hidden="true" />
          <span class="sr-only">{{ say('app.signOut') }}</span>
        </button>
      </nav>
    </div>
  </header>
  <div
    v-if="newerVersion || partMissing || device.blocked || device.full || me?.full"
    class="no-print border-b border-hair bg-tint"
    role="status"
  >
    <div class="mx-auto flex max-w-[1400px] flex-wrap items-center gap-x-4 px-4 py-1 text-sm">
      <p v-if="newerVersion || partMissing" class="flex flex-wrap items-center gap-x-3">
        {{ say(partMissing ? 'version.missing' : 'version.newer') }}
        <button type="button" class="link-strong" @click="loadNewVersion">
          {{ say('version.load') }}
        </button>
      </p>
      <p v-if="device.blocked">{{ say('device.blocked') }}</p>
      <p v-else-if="device.full">{{ say('device.full') }}</p>
      <p v-if="me?.full">{{ say('app.diskFull') }}</p>
    </div>
  </div>
  <main
    id="content"
    tabindex="-1"
    class="mx-auto max-w-[1400px] px-4 py-4 outline-none short:py-1 max-sm:px-2 max-sm:py-2 print:p-0"
  >
    <Trouble v-if="session.trouble && !open && !me" :error="session.trouble" @again="session.check()" />
    <RouterView v-else-if="me || open" :key="session.id" />
  </main>
  <FindDialog v-if="finding" @close="finding = false" />
  <LeavingDialog v-if="leaving" @stay="leaving = false" @leave="leaveNow" />
</template>
