<script setup lang="ts">
// Questions before the laboratory, made from the plan; the core judges.
import { ref } from 'vue';
import type { Schemas } from '@/api/client';
import { answerQuestion } from '@/api/planning';
import { say } from '@/words';

const props = defineProps<{ plan: Schemas['Plan']; classId: string; practical: string }>();
const values = ref<Record<string, string>>({});
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
  <section class="panel no-print p-5">
    <h2 class="mb-3 text-xl font-bold">{{ say('plan.questions') }}</h2>
    <ol class="grid gap-4">
      <li v-for="(q, i) in plan.questions" :key="q.code">
        <form class="grid gap-1" @submit.prevent="check(q.code)">
          <label class="font-semibold" :for="'q-' + q.code">{{ i + 1 }}. {{ q.text }}</label>
          <div class="flex flex-wrap items-center gap-2">
            <select v-if="q.choices" :id="'q-' + q.code" v-model="values[q.code]" class="field w-72">
              <option v-for="c in q.choices" :key="c.code" :value="c.code">{{ c.text }}</option>
            </select>
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
            <button type="submit" class="button">{{ say('work.give') }}</button>
          </div>
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
  </section>
</template>
