<script setup lang="ts">
// What an instructor chooses: reaction, strengths, glassware, rules.
import { computed, provide, toRef, type WritableComputedRef } from 'vue';
import type { Schemas } from '@/api/client';
import { useGlass } from '@/api/glass';
import { useCatalogue } from '@/api/queries';
import {
  aliquotOf,
  alone,
  change,
  exchanged,
  unknownOf,
  withAliquot,
  withReaction,
  withSolutionAlone,
  withStrength,
  withUnknownSwapped,
  type Practical,
} from '@/features/plan/draft';
import EditField from '@/features/plan/EditField.vue';
import EditGroup from '@/features/plan/EditGroup.vue';
import SchemeEditor from '@/features/marking/SchemeEditor.vue';
import EditQuestions from '@/features/plan/EditQuestions.vue';
import EditLists from '@/features/plan/EditLists.vue';
import EditRoute from '@/features/plan/EditRoute.vue';
import EditVia from '@/features/plan/EditVia.vue';
import { editing, withAt } from '@/features/plan/fields';
import NormsFields from '@/features/plan/NormsFields.vue';
import PlanSolution from '@/features/plan/PlanSolution.vue';
import PlanOwn from '@/features/plan/PlanOwn.vue';
import { useSession } from '@/session/session';
import SelectField from '@/shared/SelectField.vue';
import { say } from '@/words';

const practical = defineModel<Practical>({ required: true });
const props = defineProps<{
  equation: string; // of the reaction, set
  changed?: boolean; // the sample itself is not what stands in the flask
  units: Schemas['UnitChoice'][]; // in which the answer may be asked for
  fault?: { path: string; text: string }; // what the core says is wrong
  marking?: Schemas['SchemeParts']; // what a marking scheme can be made of
  classId: string;
  lists?: Schemas['Checklists']; // what is done before and after
  ofPlan: string[]; // questions that the plan can make
  norms?: Schemas['NormGroup'][]; // limits of common practice
  others: { value: string; text: string }[]; // practicals of the class in which a solution may be standardised
}>();
provide(editing, { practical, fault: toRef(() => props.fault) });
const scheme = computed({
  get: () => practical.value.marking ?? {},
  set: (now) => (practical.value = withAt(practical.value, 'marking', now.criteria ? now : undefined)),
});
const own = computed({
  get: () => practical.value.rules.norms ?? {},
  set: (now) =>
    (practical.value = change(practical.value, 'rules', { norms: Object.keys(now).length ? now : undefined })),
});
// The one that is named may not be set to this class any more.
const standards = computed(() => {
  const now = practical.value.chemistry.standardisedIn;
  const gone =
    now && !props.others.some((o) => o.value === now) ? [{ value: now, text: say('plan.standardGone') }] : [];
  return [{ value: '', text: say('plan.standardNone') }, ...props.others, ...gone];
});
// The one that comes before may not be set to this class any more either.
const befores = computed(() => {
  const now = practical.value.after;
  const gone =
    now && !props.others.some((o) => o.value === now) ? [{ value: now, text: say('plan.standardGone') }] : [];
  return [{ value: '', text: say('plan.afterNone') }, ...props.others, ...gone];
});
const session = useSession();
const volume = computed(() => session.person?.units.volume ?? '');
const { data: catalogue } = useCatalogue();
const reactions = computed(() => {
  const { own = [], reactions = [] } = catalogue.value ?? {};
  const groups = [
    { label: 'mine' as const, list: own },
    { label: 'acid-base' as const, list: reactions.filter((r) => r.kind === 'acid-base') },
    { label: 'redox' as const, list: reactions.filter((r) => r.kind === 'redox') },
  ];
  return groups.filter((g) => g.list.length);
});
const onlySolution = computed(() => alone(practical.value));
function choose(id: string) {
  if (id === 'solution') return void (practical.value = withSolutionAlone(practical.value));
  const all = reactions.value.flatMap((g) => g.list);
  const reaction = all.find((r) => r.id === id);
  if (reaction) practical.value = withReaction(practical.value, reaction, catalogue.value!.fresh, all);
}

/** One thing of the practical, read and written. */
function part<T>(get: (p: Practical) => T, set: (p: Practical, value: T) => Practical): WritableComputedRef<T> {
  return computed({ get: () => get(practical.value), set: (v) => (practical.value = set(practical.value, v)) });
}
const title = part(
  (p) => p.title,
  (p, title) => ({ ...p, title }),
);
const aliquot = part(
  (p) => aliquotOf(p)?.volume,
  (p, volume) => withAliquot(p, { volume }),
);
/** What is typed for it; emptied, what stood there stays. */
function typeAliquot(field: HTMLInputElement) {
  const typed = field.value.replace(',', '.').trim();
  if (typed) aliquot.value = typed;
  else field.value = aliquot.value ?? '';
}
const glassClass = part(
  (p) => p.glass.burette.class,
  (p, c) => withAliquot(change(p, 'glass', { burette: { ...p.glass.burette, class: c } }), { class: c }),
);
// The school's own glass, and what most schools have; what stands there may be of neither.
const { data: glassware } = useGlass(() => props.classId);
const keyOf = (b: Schemas['Burette']) => `${b.name ?? ''}/${b.capacity}/${b.division}/${b.rising ?? false}`;
const burettes = computed(() => {
  const now = practical.value.glass.burette;
  // Of a usual one the class is what was chosen.
  const listed = (glassware.value?.burettes ?? []).map((b) => (b.name ? b : { ...b, class: now.class }));
  return [...listed, now].filter((b, i, all) => all.findIndex((o) => keyOf(o) === keyOf(b)) === i);
});
const burette = part(
  (p) => keyOf(p.glass.burette),
  (p, key) => change(p, 'glass', { burette: burettes.value.find((b) => keyOf(b) === key)! }),
);
const measuring = computed(() =>
  [...(glassware.value?.own ?? []), ...(glassware.value?.wider ?? [])].filter(
    (p) => p.kind === 'pipette' || p.kind === 'cylinder',
  ),
);
/** A piece of the school's own measures the volume into the flask. */
function measureWith(i: string) {
  const p = measuring.value[Number(i)];
  if (!p) return;
  const by = p.kind === 'cylinder' ? ('cylinder' as const) : ('pipette' as const);
  practical.value = withAliquot(practical.value, {
    volume: p.capacity,
    class: p.class ?? 'B',
    by,
    tolerance: p.tolerance,
  });
}
// A burette is read for every trial: then results are compared, not titres.
const measuredBy = part(
  (p) => aliquotOf(p)?.by ?? (aliquotOf(p) && 'pipette'),
  (p, by) =>
    change(withAliquot(p, { by }), 'rules', {
      agreement: { ...p.rules.agreement, ...(by === 'burette' && { kind: 'relative' as const }) },
    }),
);
const rising = part(
  (p) => p.glass.burette.rising ?? false,
  (p, rising) => change(p, 'glass', { burette: { ...p.glass.burette, rising } }),
);
const tolerance = part(
  (p) => p.rules.agreement.tolerance,
  (p, tolerance) => change(p, 'rules', { agreement: { ...p.rules.agreement, tolerance } }),
);
const need = part(
  (p) => p.rules.agreement.need,
  (p, need) => change(p, 'rules', { agreement: { ...p.rules.agreement, need } }),
);
const resolution = part(
  (p) => p.rules.readings.resolution,
  (p, resolution) => change(p, 'rules', { readings: { ...p.rules.readings, resolution } }),
);
const results = part(
  (p) => p.showing.results,
  (p, results) => change(p, 'showing', { results }),
);
// A probe alone finds the end; taken back, the indicator that stood there stands again.
let eyes = '';
const probeAlone = part(
  (p) => p.chemistry.indicator === 'ph-meter',
  (p, alone) => {
    if (alone) eyes = p.chemistry.indicator;
    return change(p, 'chemistry', { indicator: alone ? 'ph-meter' : eyes || 'phenolphthalein' });
  },
);
const hide = part(
  (p) => p.showing.hideExpected ?? false,
  (p, hideExpected) => change(p, 'showing', { hideExpected }),
);
const calculators = part(
  (p) => p.showing.calculators ?? false,
  (p, calculators) => change(p, 'showing', { calculators: calculators || undefined }),
);
const tries = part(
  (p) => p.showing.tries || 5,
  (p, tries) => change(p, 'showing', { tries }),
);

/** Usual choices, and the one that stands where it is another. */
const withNow = (usual: string[], now?: string) => [...new Set([...usual, ...(now ? [now] : [])])];
const inML = (list: string[]) => list.map((value) => ({ value, text: `${value} ${volume.value}` }));
const buretteText = (b: Schemas['Burette']) =>
  say(b.rising ? 'plan.syringe' : 'plan.graduated', {
    name: b.name ? b.name + ': ' : '',
    capacity: `${b.capacity} ${volume.value}`,
    division: `${b.division} ${volume.value}`,
  });
</script>

<template>
  <form class="grid gap-3" @submit.prevent>
    <div>
      <label class="label" for="plan-title">{{ say('plan.title') }}</label>
      <input id="plan-title" v-model="title" class="field" maxlength="120" />
    </div>
    <EditField path="purpose" control="area" />
    <div>
      <label class="label" for="plan-reaction">{{ say('plan.reaction') }}</label>
      <select id="plan-reaction" class="field" @change="choose(($event.target as HTMLSelectElement).value)">
        <option value="">{{ onlySolution ? say('plan.solutionAlone') : equation }}</option>
        <option v-if="!onlySolution" value="solution">{{ say('plan.solutionAlone') }}</option>
        <optgroup v-for="g in reactions" :key="g.label" :label="say(`plan.kinds.${g.label}`)">
          <option v-for="r in g.list" :key="r.id" :value="r.id">{{ r.name }}</option>
        </optgroup>
      </select>
    </div>
    <template v-if="onlySolution">
      <PlanSolution :units="units" />
      <EditRoute path="chemistry.titrant.made" open />
    </template>
    <div v-if="!onlySolution" class="grid grid-cols-2 gap-3">
      <div v-for="which in ['titrant', 'analyte'] as const" :key="which">
        <label class="label" :for="'plan-' + which">
          {{ say(which === 'analyte' && changed ? 'plan.sample' : `plan.${which}`) }}:
          {{ practical.chemistry[which].name }}
          <span class="font-normal">{{
            say(which === unknownOf(practical) ? 'plan.about' : 'plan.known', {
              unit: session.person?.units.concentration,
            })
          }}</span>
        </label>
        <input
          :id="'plan-' + which"
          class="field figure text-right"
          inputmode="decimal"
          maxlength="12"
          :value="practical.chemistry[which].concentration ?? practical.chemistry[which].approximate ?? ''"
          @input="practical = withStrength(practical, which, ($event.target as HTMLInputElement).value)"
        />
      </div>
    </div>
    <div v-if="!onlySolution" class="flex flex-wrap gap-2">
      <button type="button" class="button px-3 text-sm" @click="practical = exchanged(practical)">
        {{ say('plan.exchange') }}
      </button>
      <button type="button" class="button px-3 text-sm" @click="practical = withUnknownSwapped(practical)">
        {{ say('plan.swapKnown') }}
      </button>
    </div>
    <div v-if="!onlySolution" class="grid grid-cols-2 gap-3">
      <div v-if="aliquot !== undefined">
        <label class="label" for="plan-aliquot">{{ say('plan.aliquot') }} / {{ volume }}</label>
        <input
          id="plan-aliquot"
          class="field figure"
          inputmode="decimal"
          maxlength="12"
          list="plan-aliquots"
          autocomplete="off"
          :value="aliquot"
          @change="typeAliquot($event.target as HTMLInputElement)"
        />
        <datalist id="plan-aliquots">
          <option v-for="v in ['1.00', '2.00', '5.00', '10.00', '20.00', '25.00', '50.00']" :key="v" :value="v" />
        </datalist>
      </div>
      <SelectField
        v-if="measuredBy"
        v-model="measuredBy"
        name="plan-by"
        :label="say('plan.by')"
        :options="
          (['pipette', 'cylinder', 'burette'] as const).map((value) => ({ value, text: say(`plan.bys.${value}`) }))
        "
      />
      <div v-if="aliquot !== undefined && measuring.length" class="col-span-2">
        <label class="label" for="plan-measuring">{{ say('plan.measuring') }}</label>
        <select id="plan-measuring" class="field" @change="measureWith(($event.target as HTMLSelectElement).value)">
          <option value="">{{ say('edit.lists.choose') }}</option>
          <option v-for="(p, i) in measuring" :key="i" :value="i">
            {{ p.name }}{{ p.serial ? ` (${p.serial})` : '' }}, {{ p.capacity }} {{ volume }}
          </option>
        </select>
      </div>
      <SelectField
        v-model="glassClass"
        name="plan-class"
        :label="say('plan.class')"
        :options="(['A', 'B'] as const).map((value) => ({ value, text: value }))"
      />
      <SelectField
        v-model="burette"
        name="plan-burette"
        class="col-span-2"
        figure
        :label="say('bench.burette')"
        :options="burettes.map((b) => ({ value: keyOf(b), text: buretteText(b) }))"
      />
      <label class="col-span-2 flex min-h-11 items-center gap-2">
        <input v-model="rising" type="checkbox" class="size-5 accent-accent" />{{ say('plan.rising') }}
      </label>
    </div>
    <fieldset class="grid grid-cols-2 gap-3 border-t border-hair pt-2">
      <legend class="label">{{ say('plan.rules') }}</legend>
      <SelectField
        v-if="tolerance && !onlySolution"
        v-model="tolerance"
        name="plan-tolerance"
        figure
        :label="say('plan.tolerance')"
        :options="inML(withNow(['0.05', '0.10', '0.20'], tolerance))"
      />
      <SelectField
        v-if="!onlySolution"
        v-model="need"
        name="plan-need"
        figure
        :label="say('plan.need')"
        :options="[1, 2, 3].map((value) => ({ value, text: String(value) }))"
      />
      <p v-if="need === 1 && !onlySolution" class="col-span-2 text-sm text-quiet">{{ say('plan.needOne') }}</p>
      <SelectField
        v-if="!onlySolution"
        v-model="resolution"
        name="plan-resolution"
        :label="say('plan.resolution')"
        :options="
          (['half', 'tenth', 'whole'] as const).map((value) => ({ value, text: say(`plan.resolutions.${value}`) }))
        "
      />
      <SelectField
        v-model="results"
        name="plan-show"
        :label="say('plan.show')"
        :options="
          (['always', 'after-attempt', 'after-marking'] as const).map((value) => ({
            value,
            text: say(`plan.shows.${value}`),
          }))
        "
      />
      <label v-if="!onlySolution" class="col-span-2 flex min-h-11 items-center gap-2">
        <input v-model="hide" type="checkbox" class="size-5 accent-accent" />{{ say('plan.hide') }}
      </label>
      <label v-if="results !== 'always'" class="col-span-2 flex min-h-11 items-center gap-2">
        <input v-model="calculators" type="checkbox" class="size-5 accent-accent" />{{ say('plan.calculators') }}
      </label>
      <SelectField
        v-model="tries"
        name="plan-tries"
        :label="say('plan.tries')"
        :options="[1, 2, 3, 5, 10, 50].map((value) => ({ value, text: String(value) }))"
      />
    </fieldset>
    <template v-if="!onlySolution">
      <EditGroup group="asked">
        <template #before>
          <EditField
            v-if="units.length > 1"
            path="asked.unit"
            control="text"
            class="order-first"
            :options="units.map((u, i) => ({ value: i ? u.unit : '', text: u.text }))"
          />
        </template>
      </EditGroup>
      <EditRoute path="route" />
      <EditRoute path="chemistry.titrant.made" />
      <EditGroup group="reaction"><EditVia /></EditGroup>
      <EditGroup group="solutions">
        <template #before>
          <EditField path="chemistry.standardisedIn" control="text" class="col-span-2" :options="standards" />
        </template>
      </EditGroup>
      <EditGroup group="probe">
        <label v-if="practical.probe?.shows" class="col-span-2 flex min-h-11 items-center gap-2">
          <input id="probe-alone" v-model="probeAlone" type="checkbox" class="size-5 accent-accent" />{{
            say('plan.probeAlone')
          }}
        </label>
      </EditGroup>
      <EditGroup group="judging" />
    </template>
    <EditGroup group="norms">
      <NormsFields v-if="norms" v-model="own" class="col-span-2" :groups="norms" :fault="fault" />
    </EditGroup>
    <EditGroup group="sequence">
      <template #before>
        <EditField path="after" control="text" class="col-span-2" :options="befores" />
      </template>
    </EditGroup>
    <EditGroup group="lists">
      <EditLists v-if="lists" :lists="lists" :class-id="classId" :others="others" />
    </EditGroup>
    <EditGroup group="exercise"><EditQuestions :of-plan="ofPlan" /></EditGroup>
    <EditGroup group="marking">
      <SchemeEditor v-if="marking" v-model="scheme" class="col-span-2" :parts="marking" :fault="fault" />
    </EditGroup>
    <EditGroup group="writing" />
    <PlanOwn v-if="!onlySolution" v-model="practical" />
  </form>
</template>
