<script setup lang="ts">
// What an instructor chooses: reaction, strengths, glassware, rules.
import { computed } from 'vue';
import { useCatalogue } from '@/api/queries';
import type { Practical } from '@/features/plan/draft';
import { fromReaction } from '@/features/plan/draft';

const practical = defineModel<Practical>({ required: true });
const { data: catalogue } = useCatalogue();
const reactions = computed(() => [
  ...(catalogue.value?.own.length ? [{ label: 'mine', list: catalogue.value.own }] : []),
  { label: 'acid-base', list: catalogue.value?.reactions.filter((r) => r.kind === 'acid-base') ?? [] },
  { label: 'redox', list: catalogue.value?.reactions.filter((r) => r.kind === 'redox') ?? [] },
]);

function set(change: Partial<Practical>) {
  practical.value = { ...practical.value, ...change };
}

/** The unknown stands in the flask or in the burette; its strength is approximate. */
const unknownInBurette = computed(() => !practical.value.titrant.concentration);
const strength = (s: Practical['titrant']) => s.concentration ?? s.approximate ?? '';
function setStrength(which: 'titrant' | 'analyte', value: string) {
  const s = practical.value[which];
  const known = (which === 'analyte') === unknownInBurette.value;
  set({ [which]: { ...s, [known ? 'concentration' : 'approximate']: value || undefined } });
}
function swapKnown() {
  const { titrant, analyte } = practical.value;
  const flip = (s: Practical['titrant']) =>
    s.concentration
      ? { ...s, concentration: undefined, approximate: s.concentration }
      : { ...s, approximate: undefined, concentration: s.approximate };
  set({ titrant: flip(titrant), analyte: flip(analyte) });
}
function choose(id: string) {
  const r = reactions.value.flatMap((g) => g.list).find((x) => x.id === id);
  if (r) set(fromReaction(r));
}
function exchange() {
  const { titrant, analyte } = practical.value;
  set({ titrant: analyte, analyte: titrant });
}
const decimal = (text: string) => text.replace(',', '.').trim();
const glass = [
  ['50.00', '0.1'],
  ['25.00', '0.1'],
  ['25.00', '0.05'],
  ['10.00', '0.02'],
];
</script>

<template>
  <form class="grid gap-3" @submit.prevent>
    <div>
      <label class="label" for="plan-title">{{ $t('plan.title') }}</label>
      <input
        id="plan-title"
        class="field"
        maxlength="120"
        :value="practical.title"
        @input="set({ title: ($event.target as HTMLInputElement).value })"
      />
    </div>
    <div>
      <label class="label" for="plan-reaction">{{ $t('plan.reaction') }}</label>
      <select id="plan-reaction" class="field" @change="choose(($event.target as HTMLSelectElement).value)">
        <option value="">{{ practical.equation }}</option>
        <optgroup v-for="g in reactions" :key="g.label" :label="$t('plan.kinds.' + g.label)">
          <option v-for="r in g.list" :key="r.id" :value="r.id">{{ r.name }}</option>
        </optgroup>
      </select>
    </div>
    <div class="grid grid-cols-2 gap-3">
      <div v-for="which in ['titrant', 'analyte'] as const" :key="which">
        <label class="label" :for="'plan-' + which">
          {{ $t('plan.' + which) }}: {{ practical[which].name }}
          <span class="font-normal">{{
            $t((which === 'titrant') === unknownInBurette ? 'plan.about' : 'plan.known')
          }}</span>
        </label>
        <input
          :id="'plan-' + which"
          class="field figure text-right"
          inputmode="decimal"
          maxlength="12"
          :value="strength(practical[which])"
          @input="setStrength(which, decimal(($event.target as HTMLInputElement).value))"
        />
      </div>
    </div>
    <div class="flex flex-wrap gap-2">
      <button type="button" class="button !px-3 text-sm" @click="exchange">{{ $t('plan.exchange') }}</button>
      <button type="button" class="button !px-3 text-sm" @click="swapKnown">{{ $t('plan.swapKnown') }}</button>
    </div>
    <div class="grid grid-cols-2 gap-3">
      <div>
        <label class="label" for="plan-aliquot">{{ $t('plan.aliquot') }}</label>
        <select
          id="plan-aliquot"
          class="field figure"
          :value="practical.aliquot?.volume"
          @change="set({ aliquot: { ...practical.aliquot!, volume: ($event.target as HTMLSelectElement).value } })"
        >
          <option
            v-for="v in [
              ...new Set(['5.00', '10.00', '20.00', '25.00', '50.00', practical.aliquot?.volume ?? '25.00']),
            ]"
            :key="v"
            :value="v"
          >
            {{ v }} mL
          </option>
        </select>
      </div>
      <div>
        <label class="label" for="plan-class">{{ $t('plan.class') }}</label>
        <select
          id="plan-class"
          class="field"
          :value="practical.burette.class"
          @change="
            set({
              burette: { ...practical.burette, class: ($event.target as HTMLSelectElement).value as 'A' | 'B' },
              aliquot: practical.aliquot && {
                ...practical.aliquot,
                class: ($event.target as HTMLSelectElement).value as 'A' | 'B',
              },
            })
          "
        >
          <option value="A">A</option>
          <option value="B">B</option>
        </select>
      </div>
      <div class="col-span-2">
        <label class="label" for="plan-burette">{{ $t('bench.burette') }}</label>
        <select
          id="plan-burette"
          class="field figure"
          :value="practical.burette.capacity + '/' + practical.burette.division"
          @change="
            set({
              burette: {
                ...practical.burette,
                capacity: ($event.target as HTMLSelectElement).value.split('/')[0]!,
                division: ($event.target as HTMLSelectElement).value.split('/')[1]!,
              },
            })
          "
        >
          <option v-for="[c, d] in glass" :key="c! + d" :value="c + '/' + d">{{ c }} mL, {{ d }} mL</option>
        </select>
      </div>
    </div>
    <fieldset class="grid grid-cols-2 gap-3 border-t border-hair pt-2">
      <legend class="label">{{ $t('plan.rules') }}</legend>
      <div>
        <label class="label" for="plan-tolerance">{{ $t('plan.tolerance') }}</label>
        <select
          id="plan-tolerance"
          class="field figure"
          :value="practical.agreement.tolerance"
          @change="
            set({ agreement: { ...practical.agreement, tolerance: ($event.target as HTMLSelectElement).value } })
          "
        >
          <option v-for="t in ['0.05', '0.10', '0.20']" :key="t" :value="t">{{ t }} mL</option>
        </select>
      </div>
      <div>
        <label class="label" for="plan-need">{{ $t('plan.need') }}</label>
        <select
          id="plan-need"
          class="field figure"
          :value="practical.agreement.need"
          @change="
            set({ agreement: { ...practical.agreement, need: Number(($event.target as HTMLSelectElement).value) } })
          "
        >
          <option :value="2">2</option>
          <option :value="3">3</option>
        </select>
      </div>
      <div>
        <label class="label" for="plan-resolution">{{ $t('plan.resolution') }}</label>
        <select
          id="plan-resolution"
          class="field"
          :value="practical.readings.resolution"
          @change="
            set({
              readings: {
                ...practical.readings,
                resolution: ($event.target as HTMLSelectElement).value as 'half' | 'tenth' | 'whole',
              },
            })
          "
        >
          <option v-for="r in ['half', 'tenth', 'whole']" :key="r" :value="r">{{ $t('plan.resolutions.' + r) }}</option>
        </select>
      </div>
      <div>
        <label class="label" for="plan-show">{{ $t('plan.show') }}</label>
        <select
          id="plan-show"
          class="field"
          :value="practical.result.show"
          @change="
            set({
              result: {
                ...practical.result,
                show: ($event.target as HTMLSelectElement).value as Practical['result']['show'],
              },
            })
          "
        >
          <option v-for="s in ['always', 'after-attempt', 'after-marking']" :key="s" :value="s">
            {{ $t('plan.shows.' + s) }}
          </option>
        </select>
      </div>
      <label class="col-span-2 flex min-h-10 items-center gap-2">
        <input
          type="checkbox"
          class="size-5 accent-accent"
          :checked="practical.readings.hideExpected"
          @change="
            set({ readings: { ...practical.readings, hideExpected: ($event.target as HTMLInputElement).checked } })
          "
        />{{ $t('plan.hide') }}
      </label>
    </fieldset>
  </form>
</template>
