<script setup lang="ts">
// What a student will see and be asked, in its order, with a careful student's run through it.
import { shallowRef } from 'vue';
import { placeOf, type Schemas } from '@/api/client';
import { dryRun } from '@/api/planning';
import type { Practical } from '@/features/plan/draft';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: Practical }>();
defineEmits<{ close: [] }>();
const run = shallowRef<Schemas['DryRun']>();
const problem = shallowRef('');
dryRun(props.classId, props.practical).then(
  (r) => (run.value = r),
  (e) => (problem.value = placeOf(e).text),
);
const lists = ['questions', 'setup', 'measured'] as const;
const after = ['work', 'report', 'lacks'] as const;
</script>

<template>
  <AppDialog :title="say('dryRun.title')" wide @close="$emit('close')">
    <p v-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
    <p v-else-if="!run" role="status">{{ say('dryRun.busy') }}</p>
    <div v-else class="grid gap-4" tabindex="0" data-test="dry-run">
      <template v-for="l in lists" :key="l">
        <section v-if="run[l].length">
          <h3 class="label">{{ say(`dryRun.${l}`) }}</h3>
          <ol class="list-decimal pl-6">
            <li v-for="(text, i) in run[l]" :key="i">{{ text }}</li>
          </ol>
        </section>
      </template>
      <section>
        <h3 class="label">{{ say('dryRun.bench') }}</h3>
        <ol class="grid gap-2">
          <li v-for="(m, i) in run.bench" :key="i" class="border-l-4 border-hair pl-2">
            <p>{{ m.says }}</p>
            <p class="figure text-quiet">→ {{ m.writes }}</p>
          </li>
        </ol>
        <p v-if="run.answer" class="mt-2 font-semibold">{{ run.answer }}</p>
      </section>
      <template v-for="l in after" :key="l">
        <section v-if="run[l].length">
          <h3 class="label">{{ say(`dryRun.${l}`) }}</h3>
          <ol class="list-decimal pl-6">
            <li v-for="(text, i) in run[l]" :key="i">{{ text }}</li>
          </ol>
        </section>
      </template>
    </div>
  </AppDialog>
</template>
