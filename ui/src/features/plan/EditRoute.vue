<script setup lang="ts">
// A row of vessels, of the sample or of how the titrant is made: added, moved, taken out; each
// asks only what it needs.
import { computed, inject, ref, watch } from 'vue';
import type { Schemas } from '@/api/client';
import EditField from '@/features/plan/EditField.vue';
import { alone } from '@/features/plan/draft';
import { at, editing, withAt, type Control } from '@/features/plan/fields';
import { say } from '@/words';

type Step = Schemas['RouteStep'];
type Kind = Step['kind'];
const props = defineProps<{
  /** Where they stand in the practical. */
  path: 'route' | 'chemistry.titrant.made';
  open?: boolean;
}>();
const { practical, fault } = inject(editing)!;
const made = computed(() => props.path !== 'route');
const steps = computed(() => (at(practical.value, props.path) ?? []) as Step[]);

/** What a vessel of each kind asks for, in order. */
const asks: Record<Kind, { field: keyof Step; control: Control }[]> = {
  weigh: [
    { field: 'what', control: 'text' },
    { field: 'formula', control: 'text' },
    { field: 'mass', control: 'decimal' },
    { field: 'eachTrial', control: 'check' },
  ],
  tablets: [
    { field: 'what', control: 'text' },
    { field: 'count', control: 'whole' },
    { field: 'mass', control: 'decimal' },
    { field: 'eachTrial', control: 'check' },
  ],
  pipette: [
    { field: 'what', control: 'text' },
    { field: 'volume', control: 'decimal' },
    { field: 'class', control: ['', 'A', 'B'] },
    { field: 'by', control: ['', 'pipette', 'cylinder', 'burette'] },
  ],
  'make-up': [
    { field: 'volume', control: 'decimal' },
    { field: 'class', control: ['', 'A', 'B'] },
    { field: 'by', control: ['', 'flask', 'cylinder'] },
  ],
  aliquot: [
    { field: 'volume', control: 'decimal' },
    { field: 'class', control: ['', 'A', 'B'] },
    { field: 'by', control: ['', 'pipette', 'cylinder', 'burette'] },
  ],
  excess: [
    { field: 'what', control: 'text' },
    { field: 'formula', control: 'text' },
    { field: 'concentration', control: 'decimal' },
    { field: 'volume', control: 'decimal' },
    { field: 'class', control: ['', 'A', 'B'] },
    { field: 'by', control: ['', 'pipette', 'cylinder', 'burette'] },
    { field: 'equation', control: 'text' },
    { field: 'byBlank', control: 'check' },
  ],
};
// A stock is measured, and its strength said; what is made is weighed once.
const stock: { field: keyof Step; control: Control }[] = [
  { field: 'what', control: 'text' },
  { field: 'concentration', control: 'decimal' },
  { field: 'volume', control: 'decimal' },
  { field: 'class', control: ['', 'A', 'B'] },
  { field: 'by', control: ['', 'pipette', 'cylinder'] },
];
function asked(kind: Kind) {
  if (!made.value) return asks[kind];
  return kind === 'pipette' ? stock : asks[kind].filter((a) => a.field !== 'eachTrial');
}
const kinds = computed(() => (made.value ? ['weigh', 'pipette', 'make-up', 'aliquot'] : Object.keys(asks)) as Kind[]);
const nameOf = (k: Kind) => say(made.value && k === 'pipette' ? 'edit.vessel.stock' : `edit.vessel.${k}`);
const prefix = computed(() => (made.value ? 'made' : 'vessel'));
const fresh: Record<Kind, Step> = {
  weigh: { kind: 'weigh', mass: '1.000' },
  tablets: { kind: 'tablets', count: 1 },
  pipette: { kind: 'pipette', volume: '25.00' },
  'make-up': { kind: 'make-up', volume: '250.0' },
  aliquot: { kind: 'aliquot', volume: '25.00' },
  excess: { kind: 'excess', volume: '50.00', concentration: '0.100' },
};
const adding = ref<Kind>('make-up');
const set = (now: Step[]) => (practical.value = withAt(practical.value, props.path, now.length ? now : undefined));
const add = () => set([...steps.value, { ...fresh[adding.value] }]);
const without = (i: number) => set(steps.value.filter((_, n) => n !== i));
function move(i: number) {
  const route = [...steps.value];
  [route[i - 1], route[i]] = [route[i]!, route[i - 1]!];
  set(route);
}
/** Another vessel in the same place keeps what both have. */
function become(i: number, kind: Kind) {
  const now = steps.value[i]!;
  const kept = Object.fromEntries(
    asked(kind)
      .map(({ field }) => [field, now[field]])
      .filter(([, v]) => v !== undefined),
  );
  set(steps.value.map((s, n) => (n === i ? ({ ...fresh[kind], ...kept, kind } as Step) : s)));
}
const open = ref(props.open);
const whole = computed(() => (fault.value?.path === props.path ? fault.value.text : ''));
watch(
  () => fault.value?.path,
  (path) => {
    if (path?.startsWith(props.path)) open.value = true;
  },
);
</script>

<template>
  <details class="border-t border-hair pt-2" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="label min-h-11">
      {{ say(made ? (alone(practical) ? 'edit.group.solution' : 'edit.group.made') : 'edit.group.route') }}
    </summary>
    <p v-if="made && !alone(practical)" class="text-sm text-quiet">{{ say('edit.made') }}</p>
    <ol class="mt-2 grid gap-3">
      <li v-for="(s, i) in steps" :key="i" class="rounded-glass border border-hair p-2" :data-test="`${prefix}-${i}`">
        <div class="mb-2 flex items-end gap-1">
          <div class="grow">
            <label class="label" :for="`${prefix}-kind-${i}`">{{ say('edit.vessel', { n: i + 1 }) }}</label>
            <select
              :id="`${prefix}-kind-${i}`"
              class="field"
              :value="s.kind"
              @change="become(i, ($event.target as HTMLSelectElement).value as Kind)"
            >
              <option v-for="k in kinds" :key="k" :value="k">{{ nameOf(k) }}</option>
            </select>
          </div>
          <button v-if="i" type="button" class="button px-3" :aria-label="say('edit.earlier')" @click="move(i)">
            ↑
          </button>
          <button
            v-if="(made && !alone(practical)) || steps.length > 1"
            type="button"
            class="button px-3"
            :aria-label="say('edit.takeOut')"
            @click="without(i)"
          >
            ×
          </button>
        </div>
        <div class="grid grid-cols-2 gap-2">
          <EditField
            v-for="a in asked(s.kind)"
            :key="a.field"
            :path="`${path}[${i}].${a.field}`"
            :as="`route.${a.field}`"
            :control="a.control"
            :class="(a.field === 'equation' || a.control === 'check') && 'col-span-2'"
          />
        </div>
      </li>
    </ol>
    <p v-if="whole" class="text-sm font-semibold text-alarm" role="alert">{{ whole }}</p>
    <div class="mt-2 flex items-end gap-2">
      <div class="grow">
        <label class="label" :for="`${prefix}-new`">{{ say('edit.vesselNew') }}</label>
        <select :id="`${prefix}-new`" v-model="adding" class="field">
          <option v-for="k in kinds" :key="k" :value="k">{{ nameOf(k) }}</option>
        </select>
      </div>
      <button type="button" class="button" @click="add">{{ say('edit.add') }}</button>
    </div>
  </details>
</template>
