<script setup lang="ts">
import { computed, onUnmounted, ref, watch } from 'vue';
import type { Schemas } from '@/api/client';
import { useShelf } from '@/api/queries';
import { keepForOffline } from '@/notebook/notebooks';
import { found, inOrder } from '@/features/shelf/order';
import ShelfPractical from '@/features/shelf/ShelfPractical.vue';
import { whenIdle } from '@/shared/idle';
import { useSession } from '@/session/session';
import { later } from '@/shared/later';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
import { say, textsOfViews } from '@/words';

const Today = later(() => Promise.all([import('@/features/home/Today.vue'), textsOfViews()]).then(([view]) => view));

const session = useSession();
// Those who teach see what needs them; who learns in a class too, below it.
const teaches = computed(() => !!session.person?.standing || session.person?.classes.some((c) => c.role !== 'student'));
const learns = computed(() => !teaches.value || !!session.person?.classes.some((c) => c.role === 'student'));
const { data: shelf, error, refetch } = useShelf(learns);
const failed = ref('');
const search = ref('');
const mine = computed(() => (shelf.value?.shelves ?? []).filter((s) => s.role === 'student'));
const many = computed(() => mine.value.flatMap((s) => s.practicals).length > 8);
const full = 16; // of so many in a class each says only what it has to

const shown = (items: Schemas['ShelfItem'][]) => inOrder(many.value ? found(items, search.value) : items);
// While something is searched for, only classes in which it was found.
const searched = computed(() => many.value && search.value.trim() !== '');
const shelves = computed(() => mine.value.filter((s) => !searched.value || shown(s.practicals).length > 0));

// What a bench needs to begin or to go on without the network is kept, when nothing
// else is to be done.
const most = 6;
let gone = false;
onUnmounted(() => (gone = true));
watch(
  shelf,
  (now) => {
    if (!now) return;
    const mine = now.shelves
      .filter((s) => s.role === 'student')
      .flatMap((s) =>
        s.practicals
          .filter((p) => !p.broken)
          .map((p) => ({
            where: { class: s.class, practical: p.practical },
            id: p.notebooks.find((n) => !n.partner)?.id,
          })),
      );
    whenIdle(() =>
      setTimeout(async () => {
        for (const { where, id } of mine.slice(0, most)) if (!gone) await keepForOffline(where, id);
      }, 2_000),
    );
  },
  { once: true, immediate: shelf.value !== undefined },
);
</script>

<template>
  <Today v-if="teaches" />
  <Trouble v-if="learns && error && !shelf" :error="error" @again="refetch()" />
  <div v-else-if="learns && shelf" class="grid gap-8">
    <component :is="teaches ? 'h2' : 'h1'" class="text-2xl font-bold">{{ say('shelf.title') }}</component>
    <div v-if="many" class="grid gap-1">
      <label class="label" for="shelf-search">{{ say('people.search') }}</label>
      <input id="shelf-search" v-model="search" type="search" class="field max-w-sm" />
    </div>
    <p v-if="failed" class="font-semibold text-alarm" role="alert">{{ failed }}</p>
    <p v-if="mine.length === 0" class="sheet text-lg">
      {{ say('shelf.noClass') }}
      <RouterLink :to="{ name: 'join' }" class="link-strong">{{ say('signIn.join') }}</RouterLink>
    </p>
    <p v-if="searched && shelves.length === 0" class="sheet text-lg" role="status">{{ say('library.none') }}</p>
    <section v-for="s in shelves" :key="s.class" :aria-label="s.name">
      <div class="mb-3 flex flex-wrap items-center justify-between gap-2">
        <h2 class="text-xl font-semibold text-quiet">
          {{ s.name }} {{ s.term }}
          <span v-if="s.archived" class="text-base text-rough">{{ say('shelf.archived') }}</span>
        </h2>
      </div>
      <div v-if="s.notices?.length" class="panel mb-3 border-accent p-4">
        <p v-for="n in s.notices" :key="n.id" class="wrap-anywhere whitespace-pre-line">{{ n.text }}</p>
      </div>
      <p v-if="s.practicals.length === 0" class="sheet text-lg">{{ say('shelf.empty') }}</p>
      <div class="grid items-start gap-4 xl:grid-cols-2">
        <ShelfPractical
          v-for="p in shown(s.practicals)"
          :key="p.practical"
          :p="p"
          :class-id="s.class"
          :archived="s.archived"
          :brief="s.practicals.length > full"
          @failed="failed = $event"
        />
      </div>
    </section>
  </div>
  <Waiting v-else-if="learns" />
</template>
