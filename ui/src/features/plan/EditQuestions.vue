<script setup lang="ts">
// The questions before the laboratory: those of the plan chosen among and reworded, and
// a school's own; and the passages that a report asks for.
import { computed, inject, ref } from 'vue';
import EditField from '@/features/plan/EditField.vue';
import { editing, withAt } from '@/features/plan/fields';
import { say, type Key } from '@/words';

const { practical } = inject(editing)!;
defineProps<{ /** Questions that the plan can make. */ ofPlan: string[] }>();
const usual = ['method', 'explain', 'differently'] as const;
const most = 10;

const set = (path: string, value: unknown[]) =>
  (practical.value = withAt(practical.value, path, value.length ? value : undefined));
/** Whether something of the usual is asked for. */
function asked(path: 'exercise.leave' | 'report.leave', code: string) {
  const left: string[] =
    (path === 'report.leave' ? practical.value.report?.leave : practical.value.exercise?.leave) ?? [];
  return {
    on: !left.includes(code),
    toggle: () => set(path, left.includes(code) ? left.filter((c) => c !== code) : [...left, code]),
  };
}
const reworded = computed(() => practical.value.exercise?.reword ?? []);
const textOf = (code: string) => reworded.value.find((r) => r.question === code)?.text ?? '';
function reword(code: string, text: string) {
  const others = reworded.value.filter((r) => r.question !== code);
  set('exercise.reword', text ? [...others, { question: code, text }] : others);
}
const own = computed(() => practical.value.exercise?.own ?? []);
const passages = computed(() => practical.value.report?.own ?? []);
// What is photographed at the bench.
const evidence = computed(() => practical.value.report?.evidence ?? []);
const photographs = (now: string[]) =>
  (practical.value = withAt(practical.value, 'report.evidence', now.length ? now : undefined));
const ownEvidence = ref('');
function addEvidence() {
  const code = '=' + ownEvidence.value.trim();
  if (code !== '=' && !evidence.value.includes(code)) photographs([...evidence.value, code]);
  ownEvidence.value = '';
}
</script>

<template>
  <div class="col-span-2 grid gap-3">
    <p class="text-sm text-quiet">{{ say('edit.questions') }}</p>
    <div v-for="code in ofPlan" :key="code" class="grid gap-1">
      <label class="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          class="size-5 accent-accent"
          :checked="asked('exercise.leave', code).on"
          @change="asked('exercise.leave', code).toggle()"
        />{{ say(`edit.question.${code}` as Key) }}
      </label>
      <input
        v-if="asked('exercise.leave', code).on"
        class="field"
        maxlength="400"
        :aria-label="say('edit.reword', { question: say(`edit.question.${code}` as Key) })"
        :placeholder="say('edit.rewordShort')"
        :value="textOf(code)"
        @input="reword(code, ($event.target as HTMLInputElement).value)"
      />
    </div>
    <fieldset v-for="(q, i) in own" :key="i" class="grid gap-2 rounded border border-hair p-3">
      <legend class="label px-1">{{ say('edit.questionOwn', { number: i + 1 }) }}</legend>
      <div class="flex items-end gap-2">
        <EditField class="grow" :path="`exercise.own[${i}].text`" control="text" />
        <button
          type="button"
          class="button px-3"
          :aria-label="say('edit.takeOut')"
          @click="
            set(
              'exercise.own',
              own.filter((_, n) => n !== i),
            )
          "
        >
          ×
        </button>
      </div>
      <EditField :path="`exercise.own[${i}].number`" control="check" />
      <EditField v-if="!q.number" :path="`exercise.own[${i}].choices`" control="lines" />
      <div class="grid grid-cols-3 gap-2">
        <EditField :path="`exercise.own[${i}].answer`" control="text" />
        <EditField v-if="q.number" :path="`exercise.own[${i}].unit`" control="text" />
        <EditField v-if="q.number" :path="`exercise.own[${i}].within`" control="decimal" />
      </div>
      <EditField :path="`exercise.own[${i}].because`" control="text" />
    </fieldset>
    <button v-if="own.length < most" type="button" class="button" @click="set('exercise.own', [...own, { text: '' }])">
      {{ say('edit.questionAdd') }}
    </button>
    <p class="text-sm text-quiet">{{ say('edit.passages') }}</p>
    <label v-for="code in usual" :key="code" class="flex min-h-11 items-center gap-2">
      <input
        type="checkbox"
        class="size-5 accent-accent"
        :checked="asked('report.leave', code).on"
        @change="asked('report.leave', code).toggle()"
      />{{ say(`passage.${code}` as Key) }}
    </label>
    <div v-for="(_, i) in passages" :key="i" class="flex items-end gap-2">
      <EditField class="grow" :path="`report.own[${i}]`" control="text" />
      <button
        type="button"
        class="button px-3"
        :aria-label="say('edit.takeOut')"
        @click="
          set(
            'report.own',
            passages.filter((_, n) => n !== i),
          )
        "
      >
        ×
      </button>
    </div>
    <EditField path="report.either" control="check" />
    <button v-if="passages.length < most" type="button" class="button" @click="set('report.own', [...passages, ''])">
      {{ say('edit.passageAdd') }}
    </button>
    <p class="text-sm text-quiet">{{ say('edit.evidence') }}</p>
    <label v-for="code in ['label', 'set-up', 'end-colour']" :key="code" class="flex min-h-11 items-center gap-2">
      <input
        :id="`evidence-${code}`"
        type="checkbox"
        class="size-5 accent-accent"
        :checked="evidence.includes(code)"
        @change="photographs(evidence.includes(code) ? evidence.filter((c) => c !== code) : [...evidence, code])"
      />{{ say(`edit.evidence.${code}` as Key) }}
    </label>
    <div v-for="code in evidence.filter((c) => c.startsWith('='))" :key="code" class="flex items-center gap-2">
      <span class="grow">{{ code.slice(1) }}</span>
      <button
        type="button"
        class="button px-3"
        :aria-label="say('edit.lists.without', { item: code.slice(1) })"
        @click="photographs(evidence.filter((c) => c !== code))"
      >
        ×
      </button>
    </div>
    <div v-if="evidence.length < 8" class="flex items-end gap-2">
      <div class="grow">
        <label class="label" for="evidence-own">{{ say('edit.evidenceOwn') }}</label>
        <input
          id="evidence-own"
          v-model="ownEvidence"
          class="field"
          maxlength="80"
          autocomplete="off"
          @keydown.enter.prevent="addEvidence"
        />
      </div>
      <button type="button" class="button" :disabled="!ownEvidence.trim()" @click="addEvidence">
        {{ say('edit.add') }}
      </button>
    </div>
  </div>
</template>
