<script setup lang="ts">
// For those who teach: what needs them, one line each, most pressing first; below it their classes with
// where each practical stands.
import { computed, ref } from 'vue';
import { useHome } from '@/api/today';
import CourseTable from '@/features/home/CourseTable.vue';
import FirstSteps from '@/features/home/FirstSteps.vue';
import { toStation } from '@/features/practical/stations';
import { useSession } from '@/session/session';
import Trouble from '@/shared/Trouble.vue';
import { dayOf, fromNow, whenIs } from '@/shared/when';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const session = useSession();
const { data: home, error, refetch } = useHome(true);
const current = computed(() => home.value?.classes.filter((c) => !c.archived) ?? []);
const archived = computed(() => home.value?.classes.filter((c) => c.archived) ?? []);
const most = 12; // of a day that is full the rest is a touch away
const soon = ['no-unknown', 'opens', 'due'];
const all = ref(false);
const shown = computed(() => (home.value?.today ?? []).slice(0, all.value ? undefined : most));
type Task = NonNullable<typeof home.value>['today'][number];
const when = (t: Task) =>
  !t.at ? say('today.now') : soon.includes(t.kind) ? whenIs(t.at) : fromNow(t.at, home.value!.now);
const mayMake = computed(() => !!session.person?.standing);
</script>

<template>
  <Trouble v-if="error && !home" :error="error" @again="refetch()" />
  <div v-else class="grid gap-6">
    <div>
      <h1 class="mb-2 text-2xl font-bold">{{ dayOf(home?.now ?? new Date()) }}</h1>
      <p v-if="home && !home.today.length && current.length" class="text-quiet">{{ say('today.nothing') }}</p>
      <ol v-if="home?.today.length" data-test="today">
        <li
          v-for="(t, i) in shown"
          :key="t.kind + t.class + t.practical"
          class="row grid items-center gap-x-4 py-1.5 sm:grid-cols-[8rem_minmax(0,5fr)_minmax(0,4fr)_9.5rem]"
        >
          <span
            class="figure text-sm"
            :class="t.kind === 'hands' || t.kind === 'runs' ? 'font-bold text-(color:--end)' : 'text-quiet'"
            >{{ when(t) }}</span
          >
          <span class="min-w-0 leading-tight wrap-anywhere"
            ><span class="font-bold">{{ t.title }}</span> <span class="text-quiet">· {{ t.className }}</span></span
          >
          <span class="flex items-center gap-3 leading-tight" :class="t.kind === 'no-unknown' && 'text-rough'">
            <span v-if="t.of" class="h-1.5 w-24 shrink-0 bg-well max-lg:hidden" aria-hidden="true"
              ><span class="block h-full bg-agree" :style="{ width: `${(100 * (t.done ?? 0)) / t.of}%` }"></span
            ></span>
            {{ t.text }}
          </span>
          <RouterLink
            :to="toStation(t.station, t)"
            :class="i === 0 ? 'button-main min-h-9 px-4' : 'link-strong inline-flex min-h-9 items-center text-accent'"
            class="sm:justify-self-end"
            >{{ say(`today.do.${t.kind}`) }}<span class="sr-only">: {{ t.title }}, {{ t.className }}</span></RouterLink
          >
        </li>
      </ol>
      <button v-if="home && home.today.length > shown.length" type="button" class="link-strong" @click="all = true">
        {{ say('today.more', {}, home.today.length - shown.length) }}
      </button>
    </div>
    <FirstSteps v-if="home && !current.length" />
    <section v-if="current.length" class="sheet-strong">
      <div class="mb-2 flex flex-wrap items-baseline justify-between gap-2">
        <h2 class="font-bold">{{ say('classes.title') }}</h2>
        <RouterLink v-if="mayMake" :to="{ name: 'classes' }" class="link-strong text-sm text-accent">{{
          say('today.newClass')
        }}</RouterLink>
      </div>
      <section v-for="c in current" :key="c.class" class="mb-6" :aria-label="c.name">
        <h3 class="row flex min-h-9 flex-wrap items-center justify-between gap-x-4 text-sm font-semibold text-quiet">
          <RouterLink :to="{ name: 'class', params: { classId: c.class } }" class="py-1 no-underline hover:underline"
            >{{ c.name }} {{ c.term }} · {{ say('classes.students', {}, c.students) }}</RouterLink
          >
          <RouterLink
            v-if="c.maySet"
            :to="{ name: 'library', params: { classId: c.class } }"
            class="link-strong inline-flex min-h-9 items-center text-accent"
            >{{ say('shelf.newPlan') }}<span class="sr-only">: {{ c.name }}</span></RouterLink
          >
        </h3>
        <CourseTable v-if="c.practicals.length" :of="c" />
        <FirstSteps v-if="!c.practicals.length || !c.students" :of="c" />
      </section>
    </section>
    <details v-if="archived.length" class="sheet">
      <summary class="min-h-9 font-semibold text-quiet">{{ say('classes.archived') }} ({{ archived.length }})</summary>
      <ul>
        <li v-for="c in archived" :key="c.class" class="row">
          <RouterLink :to="{ name: 'class', params: { classId: c.class } }" class="inline-flex min-h-9 items-center"
            >{{ c.name }} {{ c.term }}</RouterLink
          >
        </li>
      </ul>
    </details>
    <Waiting v-if="!home" />
  </div>
</template>
