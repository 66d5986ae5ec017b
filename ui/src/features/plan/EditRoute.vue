<script setup lang="ts">
// The way of the sample as a row of vessels: added, moved, taken out; each asks only
// what it needs.
import { computed, inject, ref, watch } from 'vue';
import type { Schemas } from '@/api/client';
import EditField from '@/features/plan/EditField.vue';
import { editing, type Control } from '@/features/plan/fields';
import { say } from '@/words';

type Step = Schemas['RouteStep'];
type Kind = Step['kind'];
const { practical, fault } = inject(editing)!;
const steps = computed(() => practical.value.route);

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
const kinds = Object.keys(asks) as Kind[];
const fresh: Record<Kind, Step> = {
  weigh: { kind: 'weigh', mass: '1.000' },
  tablets: { kind: 'tablets', count: 1 },
  pipette: { kind: 'pipette', volume: '25.00' },
  'make-up': { kind: 'make-up', volume: '250.0' },
  aliquot: { kind: 'aliquot', volume: '25.00' },
  excess: { kind: 'excess', volume: '50.00', concentration: '0.100' },
};
const adding = ref<Kind>('make-up');
const set = (route: Step[]) => (practical.value = { ...practical.value, route });
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
    asks[kind].map(({ field }) => [field, now[field]]).filter(([, v]) => v !== undefined),
  );
  set(steps.value.map((s, n) => (n === i ? ({ ...fresh[kind], ...kept, kind } as Step) : s)));
}
const open = ref(false);
const whole = computed(() => (fault.value?.path === 'route' ? fault.value.text : ''));
watch(
  () => fault.value?.path,
  (path) => {
    if (path?.startsWith('route')) open.value = true;
  },
);
</script>

<template>
  <details class="border-t border-hair pt-2" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="label min-h-11">{{ say('edit.group.route') }}</summary>
    <ol class="mt-2 grid gap-3">
      <li v-for="(s, i) in steps" :key="i" class="rounded-glass border border-hair p-2" :data-test="`vessel-${i}`">
        <div class="mb-2 flex items-end gap-1">
          <div class="grow">
            <label class="label" :for="`vessel-kind-${i}`">{{ say('edit.vessel', { n: i + 1 }) }}</label>
            <select
              :id="`vessel-kind-${i}`"
              class="field"
              :value="s.kind"
              @change="become(i, ($event.target as HTMLSelectElement).value as Kind)"
            >
              <option v-for="k in kinds" :key="k" :value="k">{{ say(`edit.vessel.${k}`) }}</option>
            </select>
          </div>
          <button v-if="i" type="button" class="button px-3" :aria-label="say('edit.earlier')" @click="move(i)">
            ↑
          </button>
          <button
            v-if="steps.length > 1"
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
            v-for="a in asks[s.kind]"
            :key="a.field"
            :path="`route[${i}].${a.field}`"
            :control="a.control"
            :class="(a.field === 'equation' || a.control === 'check') && 'col-span-2'"
          />
        </div>
      </li>
    </ol>
    <p v-if="whole" class="text-sm font-semibold text-alarm" role="alert">{{ whole }}</p>
    <div class="mt-2 flex items-end gap-2">
      <div class="grow">
        <label class="label" for="vessel-new">{{ say('edit.vesselNew') }}</label>
        <select id="vessel-new" v-model="adding" class="field">
          <option v-for="k in kinds" :key="k" :value="k">{{ say(`edit.vessel.${k}`) }}</option>
        </select>
      </div>
      <button type="button" class="button" @click="add">{{ say('edit.add') }}</button>
    </div>
  </details>
</template>
