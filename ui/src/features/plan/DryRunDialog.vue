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
const parts = ['questions', 'setup', 'measured', 'bench', 'work', 'report', 'lacks'] as const;
</script>

<template>
  <AppDialog :title="say('dryRun.title')" wide @close="$emit('close')">
    <p v-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
    <p v-else-if="!run" role="status">{{ say('dryRun.busy') }}</p>
    <div v-else class="grid gap-4" tabindex="0" data-test="dry-run">
      <template v-for="part in parts" :key="part">
        <section v-if="run[part].length">
          <h3 class="label">{{ say(`dryRun.${part}`) }}</h3>
          <ol v-if="part === 'bench'" class="grid gap-2">
            <li v-for="(m, i) in run.bench" :key="i" class="border-l-4 border-hair pl-2">
              <p>{{ m.says }}</p>
              <p class="figure text-quiet">→ {{ m.writes }}</p>
            </li>
          </ol>
          <ol v-else class="list-decimal pl-6">
            <li v-for="(text, i) in run[part]" :key="i">{{ text }}</li>
          </ol>
          <p v-if="part === 'bench' && run.answer" class="mt-2 font-semibold">{{ run.answer }}</p>
        </section>
      </template>
    </div>
  </AppDialog>
</template>
