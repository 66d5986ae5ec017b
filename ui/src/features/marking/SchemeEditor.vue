<script setup lang="ts">
// A marking scheme: what is given marks, how many, by which evidence.
import { computed } from 'vue';
import type { Schemas } from '@/api/client';
import type { Criterion, Scheme } from '@/api/marking';
import { bandsOf, freshId, textOfBands } from '@/features/marking/scheme';
import { say } from '@/words';

const props = defineProps<{ parts: Schemas['SchemeParts']; fault?: { path: string; text: string } }>();
const scheme = defineModel<Scheme>({ required: true });
const criteria = computed(() => scheme.value.criteria ?? []);
const total = computed(() => criteria.value.reduce((sum, c) => sum + (Number(c.marks) || 0), 0));
const set = (now: Criterion[]) => (scheme.value = { criteria: now.length ? now : undefined });
const change = (i: number, what: Partial<Criterion>) =>
  set(criteria.value.map((c, n) => (n === i ? tidied({ ...c, ...what }) : c)));
/** What its marks follow from. */
const of = (c: Criterion) => props.parts.rules.find((r) => r.code === c.rule)?.of ?? '';
/** Without what its rule does not ask for. */
function tidied(c: Criterion): Criterion {
  return {
    ...c,
    step: c.rule === 'step' ? (c.step ?? props.parts.steps[0]?.code) : undefined,
    prompt: c.rule === 'person' ? c.prompt : undefined,
    most: c.rule === 'economy' ? c.most : undefined,
    bands: ['titre', 'value'].includes(of(c)) ? (c.bands ?? [{ within: '1', marks: c.marks }]) : undefined,
  };
}
function move(i: number, by: number) {
  const now = [...criteria.value];
  const [c] = now.splice(i, 1);
  now.splice(Math.max(0, i + by), 0, c!);
  set(now);
}
const add = () =>
  set([...criteria.value, { id: freshId(criteria.value), rule: 'person', marks: '1', text: say('scheme.newOne') }]);
const usual = (c: Criterion) =>
  (c.step && props.parts.steps.find((s) => s.code === c.step)?.text) ||
  (c.prompt && props.parts.passages.find((s) => s.code === c.prompt)?.text) ||
  props.parts.rules.find((r) => r.code === c.rule)?.text ||
  c.rule;
const wrong = (i: number) => (props.fault?.path.includes(`criteria[${i}]`) ? props.fault.text : '');
const value = (e: Event) => (e.target as HTMLInputElement).value;
const number = (e: Event) => value(e).replace(',', '.').trim() || undefined;
</script>

<template>
  <div class="grid gap-2">
    <div v-if="!criteria.length" class="rounded-glass bg-well p-3">
      <p class="mb-2">{{ say('scheme.none') }}</p>
      <button type="button" class="button" @click="set(parts.first.criteria ?? [])">
        {{ say('scheme.writeOut') }}
      </button>
    </div>
    <ol v-else class="grid gap-1.5">
      <li v-for="(c, i) in criteria" :key="c.id" class="rounded-glass border border-hair p-2" :data-scheme="c.id">
        <div class="flex flex-wrap items-center gap-2">
          <input
            class="field min-h-10 w-auto min-w-40 grow basis-0"
            maxlength="200"
            :value="c.text ?? ''"
            :placeholder="usual(c)"
            :aria-label="say('scheme.text', { number: i + 1 })"
            @input="change(i, { text: value($event) || undefined })"
          />
          <label class="flex items-center gap-1 text-sm text-quiet"
            >{{ say('scheme.marks') }}
            <input
              class="field figure min-h-10 w-16 text-right"
              inputmode="decimal"
              :value="c.marks"
              @input="change(i, { marks: number($event) ?? '0' })"
            />
          </label>
          <button
            type="button"
            class="button min-h-10 px-2"
            :disabled="i === 0"
            :aria-label="say('scheme.up', { what: c.text || usual(c) })"
            @click="move(i, -1)"
          >
            ↑
          </button>
          <button
            type="button"
            class="button min-h-10 px-2"
            :aria-label="say('scheme.out', { what: c.text || usual(c) })"
            @click="set(criteria.filter((_, n) => n !== i))"
          >
            ×
          </button>
        </div>
        <div class="mt-1 flex flex-wrap items-center gap-2 text-sm">
          <select
            class="field min-h-10 w-auto max-w-64"
            :value="c.rule"
            :aria-label="say('scheme.rule')"
            @change="change(i, { rule: value($event) as Criterion['rule'] })"
          >
            <option v-for="r in parts.rules" :key="r.code" :value="r.code">{{ r.text }}</option>
          </select>
          <select
            v-if="c.rule === 'step'"
            class="field min-h-10 w-auto max-w-64"
            :value="c.step"
            :aria-label="say('scheme.step')"
            @change="change(i, { step: value($event) })"
          >
            <option v-for="s in parts.steps" :key="s.code" :value="s.code">{{ s.text }}</option>
          </select>
          <select
            v-if="c.rule === 'person'"
            class="field min-h-10 w-auto max-w-64"
            :value="c.prompt ?? ''"
            :aria-label="say('scheme.prompt')"
            @change="change(i, { prompt: value($event) || undefined })"
          >
            <option value="">{{ say('scheme.noPrompt') }}</option>
            <option v-for="s in parts.passages" :key="s.code" :value="s.code">{{ s.text }}</option>
          </select>
          <label v-if="of(c) === 'things'" class="flex items-center gap-1 text-quiet"
            >{{ say('scheme.lose') }}
            <input
              class="field figure min-h-10 w-14 text-right"
              inputmode="decimal"
              placeholder="1"
              :value="c.lose ?? ''"
              @input="change(i, { lose: number($event) })"
            />
          </label>
          <label v-if="c.rule === 'economy'" class="flex items-center gap-1 text-quiet"
            >{{ say('scheme.most') }}
            <input
              class="field figure min-h-10 w-14 text-right"
              inputmode="numeric"
              placeholder="4"
              :value="c.most ?? ''"
              @input="change(i, { most: Number(value($event)) || undefined })"
            />
          </label>
          <label v-if="c.bands" class="flex grow items-center gap-1 text-quiet"
            >{{ say(of(c) === 'titre' ? 'scheme.bandsTitre' : 'scheme.bandsAnswer') }}
            <input
              class="field figure min-h-10 min-w-48"
              :value="textOfBands(c.bands)"
              @change="change(i, { bands: bandsOf(value($event)) })"
            />
          </label>
          <label class="flex items-center gap-1 text-quiet"
            >{{ say('scheme.needs') }}
            <select
              class="field min-h-10 w-auto max-w-48"
              :value="c.needs ?? ''"
              @change="change(i, { needs: value($event) || undefined })"
            >
              <option value="">{{ say('scheme.needsNothing') }}</option>
              <option v-for="b in criteria.slice(0, i)" :key="b.id" :value="b.id">{{ b.text || usual(b) }}</option>
            </select>
          </label>
        </div>
        <p v-if="wrong(i)" class="mt-1 font-semibold text-alarm" role="alert">{{ wrong(i) }}</p>
      </li>
    </ol>
    <p v-if="criteria.length" class="flex flex-wrap items-center gap-3">
      <button type="button" class="button" @click="add">{{ say('scheme.add') }}</button>
      <strong class="figure" data-test="scheme-total">{{ say('scheme.total', { marks: total }) }}</strong>
      <button type="button" class="min-h-11 underline" @click="set(parts.first.criteria ?? [])">
        {{ say('scheme.again') }}
      </button>
    </p>
  </div>
</template>
