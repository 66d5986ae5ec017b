<script setup lang="ts">
// The student's own calculation, step by step. The core judges; here values
// are written down.
import { computed, toRef } from 'vue';
import type { Notebook } from '@/api/client';
import { useBench } from '@/notebook/useBench';
import WorkStep from '@/features/work/WorkStep.vue';
import RoutePicture from '@/shared/RoutePicture.vue';
import Tex from '@/shared/Tex.vue';
import { settingRows } from '@/shared/setting';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
const bench = useBench(toRef(props, 'notebook'));
const sheet = computed(() => props.notebook.sheet);
const show = computed(() => props.notebook.practical.showing.results);
const standing = ['bench.burette', 'bench.flask', 'bench.solution'];
const counting = computed(() => sheet.value.trials.filter((t) => t.counts));
</script>

<template>
  <div v-if="sheet.work.length" class="grid items-start gap-4 lg:grid-cols-[1fr_22rem]">
    <section class="sheet">
      <h2 class="text-xl font-bold">{{ say('work.title') }}</h2>
      <p class="mb-3 text-quiet">{{ say(`work.${show}`) }}</p>
      <p v-if="!sheet.setting.madeOnly && !counting.length" class="mb-3 font-semibold text-rough">
        {{ say('work.disagree') }}
      </p>
      <ol class="grid gap-4">
        <WorkStep
          v-for="(step, i) in sheet.work"
          :key="step.step"
          :draft="`answer.${notebook.id}.${step.step}`"
          :number="i + 1"
          :step="step"
          :may-write="notebook.mayWrite"
          :line="sheet.answer?.origins[step.step]?.line"
          :write="(text: string, unit: string) => bench.answer(step.step, text, unit)"
        />
      </ol>
    </section>
    <aside class="grid gap-4">
      <section class="sheet">
        <h2 class="label mb-2">{{ say('work.given') }}</h2>
        <p v-if="sheet.setting.equationLatex" class="mb-2"><Tex :source="sheet.setting.equationLatex" /></p>
        <p
          v-for="[label, value] in settingRows(sheet.setting).filter(([label]) => standing.includes(label))"
          :key="label"
        >
          {{ say(label) }}: {{ value }}
        </p>
        <table class="mt-2 w-full text-left" data-test="given">
          <tbody>
            <tr v-for="(g, i) in sheet.given" :key="i" class="border-t border-hair align-baseline">
              <th scope="row" class="py-0.5 pr-3 font-normal">
                {{ g.name }}<span v-if="g.note" class="block text-sm text-quiet">{{ g.note }}</span>
              </th>
              <td class="figure whitespace-nowrap py-0.5 text-right align-top">{{ g.text }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section class="sheet">
        <h2 class="label mb-2">{{ say(sheet.setting.madeOnly ? 'bench.makesOnly' : 'result.route') }}</h2>
        <RoutePicture :route="sheet.setting.route" />
      </section>
    </aside>
  </div>
  <div v-else class="sheet">
    <p class="mb-2 text-xl font-semibold">{{ say('work.notYet') }}</p>
    <p class="mb-4">{{ sheet.setting.madeOnly ? sheet.next.text : sheet.agreement.text }}</p>
    <RouterLink class="button" :to="{ name: 'bench', params: { id: notebook.id } }">{{
      say('result.toBench')
    }}</RouterLink>
  </div>
</template>
