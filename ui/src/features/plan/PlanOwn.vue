<script setup lang="ts">
// What a school says itself: where the end is called, how far off it may lie, and
// the constants of a substance that the catalogue does not know; and the samples
// that are compared.
import { change, withOwn, withSamples, type Practical } from '@/features/plan/draft';
import { say } from '@/words';

const practical = defineModel<Practical>({ required: true });
const number = (e: Event) => (e.target as HTMLInputElement).value.replace(',', '.').trim() || undefined;
/** pKa values as they are typed, with blanks or semicolons between them. */
const numbers = (e: Event) =>
  (e.target as HTMLInputElement).value
    .split(/[\s;]+/)
    .map((text) => text.replace(',', '.'))
    .filter(Boolean);
</script>

<template>
  <details class="border-t border-hair pt-2" :open="!!practical.samples?.length">
    <summary class="label min-h-11 cursor-pointer">{{ say('plan.samples.heading') }}</summary>
    <label class="label" for="plan-samples">{{ say('plan.samples.label') }}</label>
    <textarea
      id="plan-samples"
      class="field"
      rows="3"
      maxlength="500"
      :value="practical.samples?.map((s) => s.name).join('\n') ?? ''"
      @change="practical = withSamples(practical, ($event.target as HTMLTextAreaElement).value)"
    ></textarea>
  </details>
  <details class="border-t border-hair pt-2">
    <summary class="label min-h-11 cursor-pointer">{{ say('plan.own.heading') }}</summary>
    <div class="mt-2 grid grid-cols-2 gap-3">
      <div>
        <label class="label" for="own-stop">{{ say('plan.own.stopsAt') }}</label>
        <input
          id="own-stop"
          class="field figure"
          inputmode="decimal"
          maxlength="6"
          :value="practical.chemistry.stopsAt ?? ''"
          @change="practical = change(practical, 'chemistry', { stopsAt: number($event) })"
        />
      </div>
      <div>
        <label class="label" for="own-limit">{{ say('plan.own.limit') }}</label>
        <input
          id="own-limit"
          class="field figure"
          inputmode="decimal"
          maxlength="6"
          placeholder="0.5"
          :value="practical.rules.indicatorLimit ?? ''"
          @change="practical = change(practical, 'rules', { indicatorLimit: number($event) })"
        />
      </div>
      <div class="col-span-2">
        <label class="label" for="own-salt">{{ say('plan.own.salt') }}</label>
        <input
          id="own-salt"
          class="field"
          maxlength="60"
          :value="practical.chemistry.salt ?? ''"
          @change="
            practical = change(practical, 'chemistry', {
              salt: ($event.target as HTMLInputElement).value.trim() || undefined,
            })
          "
        />
      </div>
      <template v-for="which in ['titrant', 'analyte'] as const" :key="which">
        <p class="col-span-2 font-semibold">{{ say('plan.own.of', { name: practical.chemistry[which].name }) }}</p>
        <div>
          <label class="label" :for="'own-pka-' + which">{{ say('plan.own.pKa') }}</label>
          <input
            :id="'own-pka-' + which"
            class="field figure"
            maxlength="60"
            :value="practical.chemistry[which].own?.pKa?.join(' ') ?? ''"
            @change="practical = withOwn(practical, which, { pKa: numbers($event) })"
          />
        </div>
        <div>
          <label class="label" :for="'own-kind-' + which">{{ say('plan.own.kind') }}</label>
          <select
            :id="'own-kind-' + which"
            class="field"
            :value="practical.chemistry[which].own?.kind ?? 'acid'"
            @change="
              practical = withOwn(practical, which, {
                kind: ($event.target as HTMLSelectElement).value as 'acid' | 'base',
              })
            "
          >
            <option value="acid">{{ say('plan.own.acid') }}</option>
            <option value="base">{{ say('plan.own.base') }}</option>
          </select>
        </div>
        <div>
          <label class="label" :for="'own-mass-' + which">{{ say('plan.own.molarMass') }}</label>
          <input
            :id="'own-mass-' + which"
            class="field figure"
            inputmode="decimal"
            maxlength="12"
            :value="practical.chemistry[which].own?.molarMass ?? ''"
            @change="practical = withOwn(practical, which, { molarMass: number($event) })"
          />
        </div>
        <div>
          <label class="label" :for="'own-electrons-' + which">{{ say('plan.own.electrons') }}</label>
          <input
            :id="'own-electrons-' + which"
            class="field figure"
            inputmode="numeric"
            maxlength="2"
            :value="practical.chemistry[which].own?.electrons ?? ''"
            @change="practical = withOwn(practical, which, { electrons: Number(number($event)) || undefined })"
          />
        </div>
        <div>
          <label class="label" :for="'own-potential-' + which">{{ say('plan.own.potential') }}</label>
          <input
            :id="'own-potential-' + which"
            class="field figure"
            inputmode="decimal"
            maxlength="8"
            :value="practical.chemistry[which].own?.potential ?? ''"
            @change="practical = withOwn(practical, which, { potential: number($event) })"
          />
        </div>
      </template>
    </div>
  </details>
</template>
