<script setup lang="ts">
// Questions before the laboratory, made from the plan; the core judges.
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import { answerQuestion } from '@/api/planning';
import { say } from '@/words';

const props = defineProps<{
  plan: Schemas['Plan'];
  classId: string;
  practical: string;
  given: Schemas['Given'][];
  instructor: boolean;
}>();
// What was answered before stands there again.
const values = ref<Record<string, string>>(
  props.instructor ? {} : Object.fromEntries(props.given.map((g) => [g.code, g.answer])),
);
const kept = computed(() => new Map(props.given.map((g) => [g.code, g])));
/** The answers of the class, a row a student. */
const students = computed(() => {
  const rows = new Map<string, Map<string, Schemas['Given']>>();
  for (const g of props.instructor ? props.given : [])
    rows.set(g.name ?? '', (rows.get(g.name ?? '') ?? new Map()).set(g.code, g));
  return [...rows];
});
const judged = ref<Record<string, { right: boolean; text: string }>>({});

async function check(code: string) {
  const given = values.value[code]?.trim();
  if (!given) return;
  try {
    judged.value[code] = await answerQuestion(props.classId, props.practical, code, given);
  } catch (e) {
    judged.value[code] = { right: false, text: e instanceof Error ? e.message : String(e) };
  }
}
</script>

<template>
  <section class="sheet no-print">
    <h2 class="mb-3 text-xl font-bold">{{ say('plan.questions') }}</h2>
    <ol class="grid gap-4">
      <li v-for="(q, i) in plan.questions" :key="q.code">
        <form class="grid gap-1" @submit.prevent="check(q.code)">
          <label class="font-semibold" :for="'q-' + q.code">{{ i + 1 }}. {{ q.text }}</label>
          <p v-if="q.hidden" class="text-sm text-rough">{{ q.hidden }}</p>
          <div class="flex flex-wrap items-center gap-2">
            <select v-if="q.choices" :id="'q-' + q.code" v-model="values[q.code]" class="field w-72">
              <option v-for="c in q.choices" :key="c.code" :value="c.code">{{ c.text }}</option>
            </select>
            <textarea
              v-else-if="q.written"
              :id="'q-' + q.code"
              v-model="values[q.code]"
              class="field w-full py-2"
              rows="2"
              maxlength="500"
            ></textarea>
            <input
              v-else
              :id="'q-' + q.code"
              v-model="values[q.code]"
              class="field figure w-40 text-right"
              inputmode="decimal"
              autocomplete="off"
              maxlength="24"
            />
            <span v-if="q.unit">{{ q.unit }}</span>
            <button type="submit" class="button">{{ say('plan.check') }}</button>
          </div>
          <p v-if="!instructor && !judged[q.code] && kept.get(q.code)" class="text-sm text-quiet">
            {{ say(kept.get(q.code)!.right ? 'plan.keptRight' : 'plan.kept', {}, kept.get(q.code)!.tries) }}
          </p>
          <p
            v-if="judged[q.code]"
            role="status"
            class="font-semibold"
            :class="judged[q.code]!.right ? 'text-agree' : 'text-rough'"
          >
            <span aria-hidden="true">{{ judged[q.code]!.right ? '✓' : '✗' }}</span> {{ judged[q.code]!.text }}
          </p>
        </form>
      </li>
    </ol>
    <div v-if="students.length" class="mt-5 overflow-x-auto">
      <h3 class="label">{{ say('plan.givenByClass') }}</h3>
      <table class="w-full text-left text-sm">
        <thead>
          <tr>
            <th class="p-1">{{ say('plan.student') }}</th>
            <th v-for="(q, i) in plan.questions" :key="q.code" class="p-1">{{ i + 1 }}.</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="[name, answers] in students" :key="name" class="border-t border-hair">
            <th class="p-1 font-semibold">{{ name }}</th>
            <td v-for="q in plan.questions" :key="q.code" class="p-1">
              <template v-if="answers.get(q.code)">
                <span :class="answers.get(q.code)!.right ? 'text-agree' : 'text-alarm'" aria-hidden="true">{{
                  answers.get(q.code)!.right ? '✓' : '✗'
                }}</span>
                <span class="sr-only">{{ say(answers.get(q.code)!.right ? 'plan.right' : 'plan.wrong') }}</span>
                {{ answers.get(q.code)!.shown }}
                <span v-if="answers.get(q.code)!.tries > 1" class="text-quiet">({{ answers.get(q.code)!.tries }})</span>
              </template>
              <span v-else class="text-quiet">–</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
