<script setup lang="ts">
// The first ten minutes: a class, its people, a first practical. Each with its action there, and its state.
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { Schemas } from '@/api/client';
import { useMakeClass } from '@/features/classes/changes';
import { useSession } from '@/session/session';
import { say } from '@/words';

const props = defineProps<{ of?: Schemas['ClassCourse'] }>();
const router = useRouter();
const session = useSession();
const make = useMakeClass();
const name = ref('');
const mayMake = computed(() => !!session.person?.standing);
async function add() {
  const page = await make.mutateAsync({ name: name.value, term: '', from: '' }).catch(() => undefined);
  if (page) await router.push({ name: 'class', params: { classId: page.id } });
}
type Step = { key: 'class' | 'people' | 'practical'; done: boolean; text: string };
const steps = computed<Step[]>(() => [
  { key: 'class', done: !!props.of, text: props.of?.name ?? '' },
  { key: 'people', done: !!props.of?.students, text: props.of ? say('classes.students', {}, props.of.students) : '' },
  { key: 'practical', done: !!props.of?.practicals.length, text: '' },
]);
const next = computed(() => steps.value.find((s) => !s.done)?.key);
</script>

<template>
  <ol class="grid gap-x-6 py-3 sm:grid-cols-3" data-test="first-steps">
    <li
      v-for="(s, i) in steps"
      :key="s.key"
      class="border-t-4 py-2"
      :class="s.done ? 'border-agree' : s.key === next ? 'border-accent' : 'border-hair'"
    >
      <p class="font-bold">
        <span class="figure">{{ i + 1 }}</span> {{ say(`first.${s.key}`) }}
        <span v-if="s.done" class="font-normal text-agree">✓ {{ s.text }}</span>
      </p>
      <p class="mb-2 text-sm text-quiet">{{ say(`first.${s.key}Text`) }}</p>
      <form v-if="s.key === 'class' && !of && mayMake" class="flex flex-wrap gap-2" @submit.prevent="add">
        <label class="sr-only" for="first-class">{{ say('class.name') }}</label>
        <input
          id="first-class"
          v-model="name"
          class="field min-w-0 grow basis-40"
          maxlength="80"
          required
          :placeholder="say('class.name')"
        />
        <button type="submit" class="button-main" :disabled="make.isPending.value">{{ say('classes.make') }}</button>
        <p v-if="make.error.value" role="alert" class="w-full font-semibold text-alarm">
          {{ make.error.value.message }}
        </p>
      </form>
      <p v-else-if="s.key === 'class' && !of">{{ say('shelf.noClass') }}</p>
      <div v-if="s.key === 'people' && of?.mayManage && !s.done" class="flex flex-wrap gap-2">
        <RouterLink
          v-for="how in ['people', 'code'] as const"
          :key="how"
          :to="{ name: 'class', params: { classId: of.class }, query: { add: how } }"
          :class="s.key === next && how === 'people' ? 'button-main' : 'button'"
          >{{ say(how === 'people' ? 'class.add' : 'class.code') }}</RouterLink
        >
      </div>
      <RouterLink
        v-if="s.key === 'practical' && of?.maySet && !s.done"
        :to="{ name: 'library', params: { classId: of.class } }"
        :class="s.key === next ? 'button-main' : 'button'"
        >{{ say('first.choose') }}</RouterLink
      >
    </li>
  </ol>
</template>
