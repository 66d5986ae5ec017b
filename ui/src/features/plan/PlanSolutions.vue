<script setup lang="ts">
// What reacts, and how strong it is.
import { computed } from 'vue';
import { useCatalogue } from '@/api/queries';
import {
  alone,
  exchanged,
  unknownOf,
  withReaction,
  withSolutionAlone,
  withStrength,
  withUnknownSwapped,
} from '@/features/plan/draft';
import EditField from '@/features/plan/EditField.vue';
import EditGroup from '@/features/plan/EditGroup.vue';
import EditVia from '@/features/plan/EditVia.vue';
import { useParts } from '@/features/plan/parts';
import PlanMade from '@/features/plan/PlanMade.vue';
import PlanSolution from '@/features/plan/PlanSolution.vue';
import { useSession } from '@/session/session';
import PickField from '@/shared/PickField.vue';
import { say } from '@/words';

const props = defineProps<{
  equation: string; // of the reaction, set
  ratio: string;
  changed?: boolean; // the sample itself is not what stands in the flask
  units: { unit: string; text: string }[]; // in which the answer may be asked for
  others: { value: string; text: string }[]; // practicals of the class in which a solution may be standardised
  classId: string;
}>();
const { practical } = useParts();
const session = useSession();
const { data: catalogue } = useCatalogue();
const reactions = computed(() => {
  const { own = [], reactions = [] } = catalogue.value ?? {};
  return [
    ...own.map((r) => ({ r, group: 'mine' as const })),
    ...reactions.filter((r) => r.kind === 'acid-base').map((r) => ({ r, group: 'acid-base' as const })),
    ...reactions.filter((r) => r.kind === 'redox').map((r) => ({ r, group: 'redox' as const })),
  ];
});
/** Other names of what reacts. */
const also = computed(() => new Map(catalogue.value?.substances.map((s) => [s.id, s.also])));
const onlySolution = computed(() => alone(practical.value));
const choices = computed(() => [
  ...reactions.value.map(({ r, group }) => ({
    value: r.id,
    text: r.name,
    group: say(`plan.kinds.${group}`),
    more: r.written,
    also: [r.equation, also.value.get(r.acid), also.value.get(r.base)].join(' '),
  })),
  { value: 'solution', text: say('plan.solutionAlone'), group: say('plan.kinds.none') },
]);
const reaction = computed({
  get: () =>
    onlySolution.value
      ? 'solution'
      : (reactions.value.find(
          ({ r }) =>
            r.equation === practical.value.chemistry.equation &&
            r.titrant.name === practical.value.chemistry.titrant.name &&
            r.analyte.name === practical.value.chemistry.analyte.name,
        )?.r.id ?? ''),
  set: (id) => {
    if (id === 'solution') return void (practical.value = withSolutionAlone(practical.value));
    const all = reactions.value.map(({ r }) => r);
    const chosen = all.find((r) => r.id === id);
    if (chosen) practical.value = withReaction(practical.value, chosen, catalogue.value!.fresh, all);
  },
});
// The one that is named may not be set to this class any more.
const standards = computed(() => {
  const now = practical.value.chemistry.standardisedIn;
  const gone =
    now && !props.others.some((o) => o.value === now) ? [{ value: now, text: say('plan.standardGone') }] : [];
  return [{ value: '', text: say('plan.standardNone') }, ...props.others, ...gone];
});
</script>

<template>
  <section class="grid content-start gap-2">
    <h2 class="font-bold">{{ say('plan.columns.solutions') }}</h2>
    <PickField
      v-model="reaction"
      name="plan-reaction"
      :label="say('plan.reaction')"
      :options="choices"
      :none="say('plan.ownReaction')"
      :hint="say('plan.reactionHint')"
    />
    <PlanSolution v-if="onlySolution" :units="units" />
    <template v-else>
      <p>
        {{ equation }} <span v-if="ratio" class="block text-sm text-quiet">{{ say('plan.ratio', { ratio }) }}</span>
      </p>
      <p v-for="which in ['titrant', 'analyte'] as const" :key="which" class="flex flex-wrap items-baseline gap-x-1.5">
        <label :for="'plan-' + which">
          {{ say(which === 'analyte' && changed ? 'plan.sample' : `plan.${which}`) }}:
          <strong>{{ practical.chemistry[which].name }}</strong>
          {{ say(which === unknownOf(practical) ? 'plan.about' : 'plan.known') }}
        </label>
        <span class="whitespace-nowrap">
          <input
            :id="'plan-' + which"
            class="line-field figure w-20 text-center"
            inputmode="decimal"
            maxlength="12"
            autocomplete="off"
            :value="practical.chemistry[which].concentration ?? practical.chemistry[which].approximate ?? ''"
            @input="practical = withStrength(practical, which, ($event.target as HTMLInputElement).value)"
          />
          {{ session.person?.units.concentration }}
        </span>
      </p>
      <div class="flex flex-wrap gap-x-3">
        <button type="button" class="tool -ml-1.5" @click="practical = exchanged(practical)">
          {{ say('plan.exchange') }}
        </button>
        <button type="button" class="tool -ml-1.5" @click="practical = withUnknownSwapped(practical)">
          {{ say('plan.swapKnown') }}
        </button>
      </div>
      <EditGroup group="reaction" :now="equation"><EditVia /></EditGroup>
      <PlanMade :class-id="classId" />
      <EditGroup group="solutions">
        <template #before>
          <EditField path="chemistry.standardisedIn" control="text" class="col-span-2" :options="standards" />
        </template>
      </EditGroup>
    </template>
  </section>
</template>
