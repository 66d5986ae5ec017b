<script setup lang="ts">
// The burette, and what shows the end: an indicator with its verdict, or a probe.
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import { useGlass } from '@/api/glass';
import { change, withClass } from '@/features/plan/draft';
import EditGroup from '@/features/plan/EditGroup.vue';
import IndicatorList from '@/features/plan/IndicatorList.vue';
import { useParts } from '@/features/plan/parts';
import { useSession } from '@/session/session';
import SelectField from '@/shared/SelectField.vue';
import { say } from '@/words';

const props = defineProps<{
  classId: string;
  sheet?: Schemas['Plan'];
  /** The sheet is of what stood there before: what stands there now does not run. */
  stale: boolean;
}>();
const { practical, part } = useParts();
const session = useSession();
const volume = computed(() => session.person?.units.volume ?? '');
const glassClass = part(
  (p) => p.glass.burette.class,
  (p, c) => withClass(p, c),
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
const rising = part(
  (p) => p.glass.burette.rising ?? false,
  (p, rising) => change(p, 'glass', { burette: { ...p.glass.burette, rising } }),
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
const buretteText = (b: Schemas['Burette']) =>
  say(b.rising ? 'plan.syringe' : 'plan.graduated', {
    name: b.name ? b.name + ': ' : '',
    capacity: `${b.capacity} ${volume.value}`,
    division: `${b.division} ${volume.value}`,
  });
const choosing = ref(false);
const chosen = computed(() => props.sheet?.indicators.find((i) => i.id === practical.value.chemistry.indicator));
const tones = { suits: 'text-agree', marginal: 'text-rough', unsuitable: 'text-alarm' } as const;
const choose = (indicator: string) => {
  practical.value = change(practical.value, 'chemistry', { indicator });
  choosing.value = false;
};
</script>

<template>
  <section class="grid content-start gap-2">
    <h2 class="font-bold">{{ say('plan.columns.glass') }}</h2>
    <div class="grid grid-cols-[1fr_4.5rem] items-end gap-2">
      <SelectField
        v-model="burette"
        name="plan-burette"
        figure
        :label="say('bench.burette')"
        :options="burettes.map((b) => ({ value: keyOf(b), text: buretteText(b) }))"
      />
      <SelectField
        v-model="glassClass"
        name="plan-class"
        :label="say('edit.route.class')"
        :options="(['A', 'B'] as const).map((value) => ({ value, text: value }))"
      />
    </div>
    <label class="flex min-h-11 items-center gap-2">
      <input v-model="rising" type="checkbox" class="size-5 accent-accent" />{{ say('plan.rising') }}
    </label>
    <template v-if="sheet?.indicators.length">
      <div class="flex flex-wrap items-baseline gap-x-2">
        <p>
          <strong>{{ chosen?.name ?? say('plan.noIndicator') }}</strong>
          <template v-if="chosen && !stale">
            <span class="font-semibold" :class="tones[chosen.end.verdict]"
              >&nbsp;{{ say(`plan.verdicts.${chosen.end.verdict}`) }}</span
            >
          </template>
        </p>
        <button
          type="button"
          class="tool"
          :aria-expanded="choosing"
          data-test="indicators"
          @click="choosing = !choosing"
        >
          {{ say(choosing ? 'plan.fewer' : 'plan.chooseIndicator') }}
        </button>
      </div>
      <IndicatorList
        v-if="choosing"
        :indicators="sheet.indicators"
        :chosen="practical.chemistry.indicator"
        :unit="volume"
        :unjudged="stale"
        @choose="choose"
      />
    </template>
    <EditGroup group="probe">
      <label v-if="practical.probe?.shows" class="col-span-2 flex min-h-11 items-center gap-2">
        <input id="probe-alone" v-model="probeAlone" type="checkbox" class="size-5 accent-accent" />{{
          say('plan.probeAlone')
        }}
      </label>
    </EditGroup>
  </section>
</template>
