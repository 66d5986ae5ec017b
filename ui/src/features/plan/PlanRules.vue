<script setup lang="ts">
// What is asked for, and by which rules it is measured and shown.
import { computed } from 'vue';
import type { Schemas } from '@/api/client';
import { alone, change } from '@/features/plan/draft';
import EditField from '@/features/plan/EditField.vue';
import EditGroup from '@/features/plan/EditGroup.vue';
import NormsFields from '@/features/plan/NormsFields.vue';
import { useParts, withNow } from '@/features/plan/parts';
import { useSession } from '@/session/session';
import SelectField from '@/shared/SelectField.vue';
import { say } from '@/words';

defineProps<{
  units: { unit: string; text: string }[]; // in which the answer may be asked for
  norms?: Schemas['NormGroup'][]; // limits of common practice
}>();
const { practical, fault, part } = useParts();
const session = useSession();
const onlySolution = computed(() => alone(practical.value));
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
const own = computed({
  get: () => practical.value.rules.norms ?? {},
  set: (now) =>
    (practical.value = change(practical.value, 'rules', { norms: Object.keys(now).length ? now : undefined })),
});
const inML = (list: string[]) =>
  list.map((value) => ({ value, text: `${value} ${session.person?.units.volume ?? ''}` }));
</script>

<template>
  <section class="grid content-start gap-2">
    <h2 class="font-bold">{{ say('plan.columns.rules') }}</h2>
    <div class="grid grid-cols-2 items-end gap-2">
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
      <SelectField
        v-model="tries"
        name="plan-tries"
        :label="say('plan.tries')"
        :options="[1, 2, 3, 5, 10, 50].map((value) => ({ value, text: String(value) }))"
      />
      <label v-if="!onlySolution" class="col-span-2 flex min-h-11 items-center gap-2">
        <input v-model="hide" type="checkbox" class="size-5 accent-accent" />{{ say('plan.hide') }}
      </label>
      <label v-if="results !== 'always'" class="col-span-2 flex min-h-11 items-center gap-2">
        <input v-model="calculators" type="checkbox" class="size-5 accent-accent" />{{ say('plan.calculators') }}
      </label>
    </div>
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
      <EditGroup group="judging" />
    </template>
    <EditGroup group="norms" :now="say('edit.normsNow', {}, Object.keys(own).length)">
      <NormsFields v-if="norms" v-model="own" class="col-span-2" :groups="norms" :fault="fault" />
    </EditGroup>
  </section>
</template>
