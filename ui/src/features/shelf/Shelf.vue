<script setup lang="ts">
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { useBegin, useShelf } from '@/api/queries';
import MiniBurette from '@/features/shelf/MiniBurette.vue';
import Trouble from '@/shared/Trouble.vue';
import { say } from '@/words';

const router = useRouter();
const { data: shelf, error, refetch } = useShelf();
const begin = useBegin();
const failed = ref('');

async function start(classId: string, practical: string) {
  try {
    const notebook = await begin.mutateAsync({ class: classId, practical });
    await router.push({ name: 'bench', params: { id: notebook.id } });
  } catch (e) {
    failed.value = e instanceof Error ? e.message : String(e);
  }
}
</script>

<template>
  <Trouble v-if="error && !shelf" :error="error" @again="refetch()" />
  <div v-else-if="shelf" class="grid gap-8">
    <p v-if="failed" class="font-semibold text-alarm" role="alert">{{ failed }}</p>
    <p v-if="shelf.shelves.length === 0" class="panel p-6 text-lg">{{ say('shelf.noClass') }}</p>
    <section v-for="s in shelf.shelves" :key="s.class" :aria-label="s.name">
      <h1 class="mb-3 text-2xl font-bold">
        {{ say('shelf.title') }} <span class="font-normal text-quiet">· {{ s.name }}</span>
      </h1>
      <RouterLink
        v-if="s.role === 'instructor'"
        class="button-main mb-3"
        :to="{ name: 'plan', params: { classId: s.class } }"
        >{{ say('shelf.newPlan') }}</RouterLink
      >
      <p v-if="s.practicals.length === 0" class="panel p-6 text-lg">{{ say('shelf.empty') }}</p>
      <article v-for="p in s.practicals" :key="p.practical" class="panel mb-5 p-5">
        <div class="flex flex-wrap items-start justify-between gap-2">
          <h2 class="text-xl font-bold">{{ p.title }}</h2>
          <RouterLink class="button" :to="{ name: 'plan', params: { classId: s.class, practical: p.practical } }">{{
            say(s.role === 'instructor' ? 'shelf.plan' : 'shelf.prepare')
          }}</RouterLink>
        </div>
        <p v-if="p.broken" class="mb-2 font-semibold text-alarm" role="alert">{{ p.broken }}</p>
        <p class="mb-2 text-lg text-quiet">{{ p.setting.equation }}</p>
        <p class="mb-4 max-w-prose">{{ p.purpose }}</p>
        <p v-if="p.notebooks.length === 0" class="text-quiet">{{ say('shelf.nobody') }}</p>
        <ul class="grid gap-3" :class="s.role === 'instructor' && 'md:grid-cols-2'">
          <li
            v-for="n in p.notebooks"
            :key="n.student"
            class="flex items-center gap-4 rounded-glass border border-hair p-3"
          >
            <MiniBurette :capacity="n.capacity" :bands="n.bands" class="shrink-0" />
            <div class="grow">
              <h3 v-if="s.role === 'instructor'" class="font-bold">{{ n.student }}</h3>
              <p class="text-lg font-semibold" :class="n.stage === 'agreed' && 'text-agree'">{{ n.stageText }}</p>
              <p v-if="n.broken" class="font-semibold text-alarm">{{ n.broken }}</p>
              <p v-if="n.id" class="text-sm text-quiet">
                {{ say('shelf.trials', {}, n.trials)
                }}<template v-if="n.checks"> · {{ say('shelf.checks', {}, n.checks) }}</template>
              </p>
              <p v-if="s.role === 'student'" class="my-2">{{ n.next }}</p>
              <p v-else-if="n.id" class="my-1 text-sm">{{ n.agreement }}</p>
              <div class="mt-2 flex flex-wrap gap-2">
                <button
                  v-if="!n.id && s.role === 'student'"
                  type="button"
                  class="button-main"
                  :disabled="begin.isPending.value"
                  @click="start(s.class, p.practical)"
                >
                  {{ say('shelf.begin') }}
                </button>
                <RouterLink
                  v-if="n.id && s.role === 'student'"
                  class="button-main"
                  :to="{ name: 'bench', params: { id: n.id } }"
                  >{{ say('shelf.open') }}</RouterLink
                >
                <RouterLink v-else-if="n.id" class="button" :to="{ name: 'bench', params: { id: n.id } }"
                  >{{ say('shelf.look') }}<span class="sr-only">{{ ` ${n.student}` }}</span></RouterLink
                >
                <RouterLink v-if="n.stage === 'agreed'" class="button" :to="{ name: 'result', params: { id: n.id } }"
                  >{{ say('shelf.result')
                  }}<span v-if="s.role === 'instructor'" class="sr-only">{{ ` ${n.student}` }}</span></RouterLink
                >
              </div>
            </div>
          </li>
        </ul>
      </article>
    </section>
  </div>
  <p v-else class="p-6 text-quiet" role="status">{{ say('common.loading') }}</p>
</template>
