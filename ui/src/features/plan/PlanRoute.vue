<script setup lang="ts">
// The row of vessels, of the sample or of how a solution is made, edited in place: one between two, moved
// by drag or keys, taken out. Each asks in the row for what it always needs, below it for the rest.
import { computed, inject, ref, watch } from 'vue';
import type { Schemas } from '@/api/client';
import { useGlass } from '@/api/glass';
import { alone } from '@/features/plan/draft';
import EditField from '@/features/plan/EditField.vue';
import { at, editing, withAt } from '@/features/plan/fields';
import { asked, become, kindsOf, moved, without, withVessel, type Kind, type Step } from '@/features/plan/vessels';
import { useSession } from '@/session/session';
import MenuButton from '@/shared/MenuButton.vue';
import VesselPicture from '@/shared/VesselPicture.vue';
import { say, type Key } from '@/words';

const props = defineProps<{
  /** Where they stand in the practical. */
  path: 'route' | 'chemistry.titrant.made';
  classId: string;
  /** As the core draws the way; none where it does not run. */
  vessels?: Schemas['Vessel'][];
}>();
const { practical, fault } = inject(editing)!;
const session = useSession();
const made = computed(() => props.path !== 'route');
const prefix = computed(() => (made.value ? 'made' : 'vessel'));
const steps = computed(() => (at(practical.value, props.path) ?? []) as Step[]);
const set = (now: Step[]) => (practical.value = withAt(practical.value, props.path, now.length ? now : undefined));

const kinds = computed(() => kindsOf(made.value));
const nameOf = (k: Kind) => say(made.value && k === 'pipette' ? 'edit.vessel.stock' : `edit.vessel.${k}`);
const choices = computed(() => kinds.value.map((value) => ({ value, text: nameOf(value) })));
// The sample, where it goes into the flask as it is; and the flask, which the last aliquot is.
const straight = computed(() => !made.value && steps.value.length === 1 && steps.value[0]!.kind === 'pipette');
const flask = (i: number) =>
  !made.value && i === steps.value.length - 1 && (straight.value || steps.value[i]!.kind === 'aliquot');
const before = computed(() => (straight.value ? 1 : 0));
const behind = computed(() => (!made.value && steps.value.length > 0 && !flask(steps.value.length - 1) ? 1 : 0));
const drawn = (i: number) =>
  props.vessels?.length === before.value + steps.value.length + behind.value
    ? props.vessels[before.value + i]
    : undefined;
const units: Partial<Record<keyof Step, () => string>> = {
  mass: () => 'g',
  volume: () => session.person?.units.volume ?? '',
  concentration: () => session.person?.units.concentration ?? '',
};
/** What else is said of a vessel, in a few words. */
function more(s: Step) {
  const words = [
    s.class && say('edit.ofClass', { class: s.class }),
    s.by && say(`edit.route.by.${s.by}` as Key),
    s.eachTrial && say('edit.route.eachTrial'),
    s.byBlank && say('edit.route.byBlank'),
  ];
  return words.filter(Boolean).join(' · ');
}
/** Whether a vessel may go: a way has one at least, unless the titrant is given ready made. */
const mayGo = computed(() => (made.value && !alone(practical.value)) || steps.value.length > 1);

const picked = ref(-1);
const pick = (i: number) => (picked.value = picked.value === i ? -1 : i);
function add(i: number, kind: Kind) {
  set(withVessel(steps.value, i, kind));
  picked.value = i;
}
function take(i: number) {
  set(without(steps.value, i));
  picked.value = -1;
}
const lead = (i: number) => document.getElementById(`${prefix.value}-lead-${i}`)?.focus();
function move(i: number, to: number) {
  const now = moved(steps.value, i, to);
  if (now === steps.value) return;
  set(now);
  picked.value = to;
  requestAnimationFrame(() => lead(to));
}
function keyed(e: KeyboardEvent, i: number) {
  if (!e.altKey) {
    if (e.key === 'ArrowRight') lead(i + 1);
    if (e.key === 'ArrowLeft') lead(i - 1);
    if (e.key === 'Delete' && mayGo.value) take(i);
    return;
  }
  if (e.key !== 'ArrowRight' && e.key !== 'ArrowLeft') return;
  e.preventDefault();
  move(i, e.key === 'ArrowRight' ? i + 1 : i - 1);
}
const dragged = ref(-1);
function drop(i: number) {
  if (dragged.value >= 0) move(dragged.value, i);
  dragged.value = -1;
}

// Pieces of the school that measure a volume into the next vessel.
const { data: glassware } = useGlass(() => props.classId);
const measuring = computed(() =>
  [...(glassware.value?.own ?? []), ...(glassware.value?.wider ?? [])].filter(
    (p) => p.kind === 'pipette' || p.kind === 'cylinder',
  ),
);
function measureWith(i: number, piece?: Schemas['Piece']) {
  if (!piece) return;
  const { capacity: volume, class: c = 'B', tolerance } = piece;
  const by = piece.kind === 'cylinder' ? ('cylinder' as const) : ('pipette' as const);
  set(steps.value.with(i, { ...steps.value[i]!, volume, class: c, by, tolerance }));
}
const measures = (s: Step) => measuring.value.length > 0 && ['pipette', 'aliquot', 'excess'].includes(s.kind);

// What is wrong is shown where it stands.
const whole = computed(() => (fault.value?.path === props.path ? fault.value.text : ''));
watch(
  () => fault.value?.path,
  (path) => {
    const [, i] = /\[(\d+)\]/.exec(path?.startsWith(props.path + '[') ? path : '') ?? [];
    if (i !== undefined) picked.value = Number(i);
  },
);
</script>

<template>
  <section
    :aria-label="say(made ? (alone(practical) ? 'edit.group.solution' : 'edit.group.made') : 'edit.group.route')"
  >
    <ol class="flex flex-wrap items-start gap-y-2" :data-test="prefix + '-row'">
      <li v-if="straight" class="grid w-28 justify-items-center px-1 text-center leading-tight">
        <VesselPicture kind="sample" />
        <span class="font-semibold">{{ practical.chemistry.analyte.name }}</span>
      </li>
      <li v-for="(s, i) in steps" :key="i" class="flex items-start" :data-test="`${prefix}-${i}`">
        <span class="grid w-10 justify-items-center pt-4">
          <span v-if="i || straight" class="text-2xl leading-none text-quiet" aria-hidden="true">→</span>
          <MenuButton :label="say('edit.vesselBefore', { n: i + 1 })" :options="choices" @choose="add(i, $event)"
            >+</MenuButton
          >
        </span>
        <div
          class="grid min-w-28 justify-items-center rounded-glass px-1 pb-1 text-center text-sm leading-tight"
          :class="[picked === i && 'bg-tint', dragged === i && 'opacity-50']"
          draggable="true"
          @dragstart="dragged = i"
          @dragend="dragged = -1"
          @dragover.prevent
          @drop.prevent="drop(i)"
        >
          <button
            :id="`${prefix}-lead-${i}`"
            type="button"
            class="grid justify-items-center rounded-glass px-1 font-semibold"
            :aria-expanded="picked === i"
            :aria-controls="`${prefix}-more-${i}`"
            :title="say('edit.vesselKeys')"
            @click="pick(i)"
            @keydown="keyed($event, i)"
          >
            <VesselPicture :kind="flask(i) ? 'flask' : s.kind" />
            <span class="max-w-40 wrap-anywhere">{{
              s.what || drawn(i)?.name || (flask(i) ? say('edit.vessel.flask') : nameOf(s.kind))
            }}</span>
          </button>
          <EditField
            v-for="a in asked(s.kind, made).first"
            :key="a.field"
            bare
            :path="`${path}[${i}].${a.field}`"
            :as="`route.${a.field}`"
            :control="a.control"
            :unit="units[a.field]?.()"
          />
          <span v-if="drawn(i)?.factor" class="figure text-accent">× {{ drawn(i)!.factor }}</span>
          <span v-if="more(s)" class="max-w-40 text-quiet">{{ more(s) }}</span>
        </div>
      </li>
      <li v-if="behind" class="flex items-start">
        <span class="grid w-10 justify-items-center pt-4 text-2xl leading-none text-quiet" aria-hidden="true">→</span>
        <span class="grid w-28 justify-items-center text-center text-sm leading-tight font-semibold">
          <VesselPicture kind="flask" />{{ say('edit.vessel.flask') }}
        </span>
      </li>
      <li class="grid w-10 justify-items-center pt-10">
        <MenuButton
          :label="say('edit.vesselNew')"
          :options="choices"
          :data-test="prefix + '-new'"
          @choose="add(steps.length, $event)"
          >+</MenuButton
        >
      </li>
    </ol>
    <p v-if="whole" class="text-sm font-semibold text-alarm" role="alert">{{ whole }}</p>
    <div
      v-for="(s, i) in steps"
      v-show="picked === i"
      :id="`${prefix}-more-${i}`"
      :key="i"
      class="mt-2 flex flex-wrap items-end gap-x-3 gap-y-2 border-l-4 border-accent pl-3"
      :data-of="`${prefix}-lead-${i}`"
    >
      <div>
        <label class="label" :for="`${prefix}-kind-${i}`">{{ say('edit.vessel', { n: i + 1 }) }}</label>
        <select
          :id="`${prefix}-kind-${i}`"
          class="field"
          :value="s.kind"
          @change="set(become(steps, i, ($event.target as HTMLSelectElement).value as Kind, made))"
        >
          <option v-for="k in kinds" :key="k" :value="k">{{ nameOf(k) }}</option>
        </select>
      </div>
      <EditField
        v-for="a in asked(s.kind, made).more"
        :key="a.field"
        :path="`${path}[${i}].${a.field}`"
        :as="`route.${a.field}`"
        :control="a.control"
        :class="a.field === 'equation' ? 'min-w-72 grow' : a.control === 'check' ? '' : 'w-36'"
      />
      <div v-if="measures(s)">
        <label class="label" :for="`${prefix}-piece-${i}`">{{ say('plan.measuring') }}</label>
        <select
          :id="`${prefix}-piece-${i}`"
          class="field"
          @change="measureWith(i, measuring[Number(($event.target as HTMLSelectElement).value)])"
        >
          <option value="">{{ say('edit.lists.choose') }}</option>
          <option v-for="(p, n) in measuring" :key="n" :value="n">
            {{ p.name }}{{ p.serial ? ` (${p.serial})` : '' }}, {{ p.capacity }} {{ session.person?.units.volume }}
          </option>
        </select>
      </div>
      <span class="flex gap-1">
        <button v-if="i" type="button" class="tool" @click="move(i, i - 1)">{{ say('edit.earlier') }}</button>
        <button v-if="i < steps.length - 1" type="button" class="tool" @click="move(i, i + 1)">
          {{ say('edit.later') }}
        </button>
        <button v-if="mayGo" type="button" class="tool" @click="take(i)">{{ say('edit.takeOut') }}</button>
      </span>
    </div>
  </section>
</template>
