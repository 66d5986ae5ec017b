<script setup lang="ts">
// My classes; for an administrator, all of the installation.
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useAccountChange, useClasses } from '@/api/classes';
import { useMakeClass } from '@/features/classes/changes';
import { useSession } from '@/session/session';
import Trouble from '@/shared/Trouble.vue';
import TextField from '@/shared/TextField.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const router = useRouter();
const session = useSession();
const { data: classes, error, refetch } = useClasses();
const make = useMakeClass();
const { give } = useAccountChange();
const name = ref('');
const term = ref('');
const from = ref('');
const instructor = ref<Record<string, string>>({});

const standing = computed(() => session.person?.standing ?? '');
const mine = computed(() => classes.value?.filter((c) => c.role === 'instructor' || c.role === 'assistant') ?? []);
const groups = computed(() => {
  const all = classes.value ?? [];
  return [
    { title: say('classes.now'), list: all.filter((c) => !c.archived) },
    { title: say('classes.archived'), list: all.filter((c) => c.archived) },
  ].filter((g) => g.list.length);
});

async function add() {
  const page = await make.mutateAsync({ name: name.value, term: term.value, from: from.value }).catch(() => undefined);
  if (page) await router.push({ name: 'class', params: { classId: page.id } });
}
</script>

<template>
  <Trouble v-if="error && !classes" :error="error" @again="refetch()" />
  <div v-else-if="classes" class="mx-auto grid max-w-4xl gap-6">
    <div class="flex flex-wrap items-center justify-between gap-2">
      <h1 class="text-2xl font-bold">{{ say('classes.title') }}</h1>
      <RouterLink v-if="standing === 'administrator'" :to="{ name: 'people' }" class="button">{{
        say('people.title')
      }}</RouterLink>
    </div>
    <p v-if="!classes.length" class="sheet text-lg">
      {{ say(standing ? 'classes.none' : 'shelf.noClass') }}
    </p>
    <section v-for="g in groups" :key="g.title" :aria-label="g.title">
      <h2 class="mb-2 text-lg font-semibold text-quiet">{{ g.title }}</h2>
      <ul class="grid gap-2">
        <li v-for="c in g.list" :key="c.id" class="sheet flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2">
          <component
            :is="c.role === 'instructor' || c.role === 'assistant' ? 'RouterLink' : 'span'"
            :to="{ name: 'class', params: { classId: c.id } }"
            class="flex min-h-11 grow items-center font-bold"
            :class="c.role && c.role !== 'student' && 'underline'"
            >{{ c.name }}</component
          >
          <span v-if="c.term" class="text-quiet">{{ c.term }}</span>
          <span v-if="c.students !== undefined" class="text-quiet">{{ say('classes.students', {}, c.students) }}</span>
          <span class="text-quiet">{{ c.role ? say(`role.${c.role}`) : '' }}</span>
          <form
            v-if="c.orphan && standing === 'administrator'"
            class="flex w-full flex-wrap items-end gap-2"
            @submit.prevent="give.mutate({ class: c.id, username: instructor[c.id] ?? '' })"
          >
            <p class="w-full text-rough">{{ say('classes.orphan') }}</p>
            <label class="label" :for="`give-${c.id}`">{{ say('person.username') }}</label>
            <input :id="`give-${c.id}`" v-model="instructor[c.id]" class="field max-w-60" required maxlength="40" />
            <button type="submit" class="button">{{ say('classes.give') }}</button>
            <p v-if="give.error.value" role="alert" class="w-full text-alarm">{{ give.error.value.message }}</p>
          </form>
        </li>
      </ul>
    </section>
    <section v-if="standing" class="sheet">
      <h2 class="mb-3 text-lg font-bold">{{ say('classes.new') }}</h2>
      <form class="grid items-end gap-3 sm:grid-cols-2" @submit.prevent="add">
        <TextField v-model="name" name="class-name" :label="say('class.name')" required maxlength="80" />
        <TextField
          v-model="term"
          name="class-term"
          :label="say('class.term')"
          maxlength="40"
          :placeholder="say('class.termExample')"
        />
        <div v-if="mine.length">
          <label class="label" for="class-from">{{ say('class.from') }}</label>
          <select id="class-from" v-model="from" class="field">
            <option value="">{{ say('class.fromNone') }}</option>
            <option v-for="c in mine" :key="c.id" :value="c.id">{{ c.name }} {{ c.term }}</option>
          </select>
        </div>
        <button type="submit" class="button-main" :disabled="make.isPending.value">{{ say('classes.make') }}</button>
      </form>
      <p v-if="make.error.value" role="alert" class="mt-2 font-semibold text-alarm">{{ make.error.value.message }}</p>
    </section>
  </div>
  <Waiting v-else />
</template>
