<script setup lang="ts">
// Practicals that others are made of: those that come with the program, and one's own.
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { Problem } from '@/api/client';
import { libraryPractical, readPractical, useLibrary } from '@/api/planning';
import { copyOf, type Practical } from '@/features/plan/draft';
import { beginWith } from '@/features/plan/kept';
import CompareDialog from '@/features/library/CompareDialog.vue';
import { useSession } from '@/session/session';
import RoutePicture from '@/shared/RoutePicture.vue';
import Trouble from '@/shared/Trouble.vue';
import TextField from '@/shared/TextField.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId?: string }>();
const router = useRouter();
const session = useSession();
const { data: practicals, error, refetch } = useLibrary();
const search = ref('');
const kind = ref('');
const problem = ref('');
const compared = ref<{ id: string; revisions: number[] }>();

const classes = computed(() => session.person?.classes.filter((c) => c.role === 'instructor' && !c.archived) ?? []);
const into = ref(props.classId || (classes.value[0]?.class ?? ''));
const kinds = computed(() => [...new Map(practicals.value?.map((p) => [p.kind, p.kindText])).entries()]);
const shown = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  return (practicals.value ?? []).filter((p) => {
    const text = `${p.title} ${p.purpose} ${p.equation} ${p.kindText}`.toLowerCase();
    return (!kind.value || p.kind === kind.value) && words.every((w) => text.includes(w));
  });
});

async function open(practical: Practical) {
  beginWith(into.value, copyOf(practical));
  await router.push({ name: 'new-plan', params: { classId: into.value } });
}
async function quietly(go: () => Promise<void>) {
  problem.value = '';
  await go().catch(
    (e: unknown) => (problem.value = e instanceof Problem || e instanceof Error ? e.message : String(e)),
  );
}
const use = (id: string) => quietly(async () => open(await libraryPractical(id)));
async function take(e: Event) {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (file) await quietly(async () => open(await readPractical(new Uint8Array(await file.arrayBuffer()))));
}
</script>

<template>
  <Trouble v-if="error && !practicals" :error="error" @again="refetch()" />
  <div v-else-if="practicals" class="grid gap-4">
    <h1 class="text-2xl font-bold">{{ say('library.title') }}</h1>
    <div class="sheet grid items-end gap-3 sm:grid-cols-[1fr_auto_auto_auto]">
      <TextField v-model="search" name="library-search" :label="say('people.search')" type="search" />
      <div>
        <label class="label" for="library-kind">{{ say('library.kind') }}</label>
        <select id="library-kind" v-model="kind" class="field">
          <option value="">{{ say('library.kindAll') }}</option>
          <option v-for="[k, text] in kinds" :key="k" :value="k">{{ text }}</option>
        </select>
      </div>
      <div v-if="classes.length">
        <label class="label" for="library-class">{{ say('library.for') }}</label>
        <select id="library-class" v-model="into" class="field">
          <option v-for="c in classes" :key="c.class" :value="c.class">{{ c.name }} {{ c.term }}</option>
        </select>
      </div>
      <label v-if="into" class="button cursor-pointer focus-within:outline-2">
        {{ say('library.take') }}
        <input type="file" class="sr-only" accept=".json,application/json" @change="take" />
      </label>
    </div>
    <p v-if="problem" role="alert" class="font-semibold wrap-anywhere whitespace-pre-line text-alarm">{{ problem }}</p>
    <RouterLink v-if="into" class="button justify-self-start" :to="{ name: 'new-plan', params: { classId: into } }">{{
      say('library.empty')
    }}</RouterLink>
    <p v-if="!shown.length" class="sheet text-lg">{{ say('library.none') }}</p>
    <ul class="grid gap-3 lg:grid-cols-2">
      <li v-for="p in shown" :key="p.id" class="sheet flex flex-col gap-2">
        <div class="flex items-start justify-between gap-2">
          <h2 class="text-lg font-bold">{{ p.title }}</h2>
          <span class="shrink-0 text-sm text-quiet">{{ p.kindText }}</span>
        </div>
        <p class="text-quiet">{{ p.equation }}</p>
        <p>{{ p.purpose }}</p>
        <RoutePicture :route="p.route" class="max-sm:hidden" />
        <p v-if="p.titre" class="font-semibold">{{ p.titre }}</p>
        <p v-if="p.own" class="text-sm text-quiet">
          {{ say('library.own', { classes: p.classes?.join(', ') ?? '' }) }}
        </p>
        <div class="mt-auto flex flex-wrap gap-2">
          <button v-if="into" type="button" class="button-main" @click="use(p.id)">
            {{ say('library.use') }}<span class="sr-only"> {{ p.title }}</span>
          </button>
          <a class="button" :href="`/api/library/${p.id}/document?person=${session.id}`" download>{{
            say('library.file')
          }}</a>
          <button
            v-if="p.revisions && p.revisions.length > 1"
            type="button"
            class="button"
            @click="compared = { id: p.id, revisions: p.revisions }"
          >
            {{ say('library.compare') }}
          </button>
        </div>
      </li>
    </ul>
    <CompareDialog v-if="compared" :id="compared.id" :revisions="compared.revisions" @close="compared = undefined" />
  </div>
  <Waiting v-else />
</template>
