<script setup lang="ts">
// A practical for who does not write it: what is to be done, its cautions, and the questions, without what
// answers them; for an assistant what is expected beside it.
import type { Schemas } from '@/api/client';
import CurvePicture from '@/features/plan/CurvePicture.vue';
import type { Practical } from '@/features/plan/draft';
import IndicatorList from '@/features/plan/IndicatorList.vue';
import PreLab from '@/features/plan/PreLab.vue';
import RoutePicture from '@/shared/RoutePicture.vue';
import { say } from '@/words';

defineProps<{
  draft: Practical;
  sheet: Schemas['Plan'];
  teaches: boolean;
  given?: Schemas['Given'][];
  classId?: string;
  practical?: string;
  /** In a dialog that has its title. */
  within?: boolean;
}>();
</script>

<template>
  <div class="grid gap-4">
    <section>
      <component :is="teaches ? 'h2' : 'h1'" v-if="!within" class="no-print mb-2 text-2xl font-bold">{{
        draft.title
      }}</component>
      <p v-if="draft.purpose" class="no-print mb-2 max-w-3xl">{{ draft.purpose }}</p>
      <p class="no-print text-lg">{{ sheet.setting.equation }}</p>
      <div class="no-print">
        <p v-for="s in [sheet.setting.analyte, sheet.setting.titrant].filter(Boolean)" :key="s" class="mt-1">{{ s }}</p>
        <p>{{ sheet.setting.glass }}</p>
        <template v-if="teaches">
          <p class="mt-2 text-xl font-semibold" data-test="titre">{{ sheet.titre || sheet.uncertainty }}</p>
          <p v-if="sheet.titre">{{ sheet.uncertainty }}</p>
          <ul v-if="sheet.findings.length" class="mt-2 grid gap-1">
            <li v-for="f in sheet.findings" :key="f.code" class="border-l-4 border-hair pl-2">{{ f.text }}</li>
          </ul>
        </template>
        <RoutePicture v-if="teaches || within || sheet.setting.madeOnly" :route="sheet.setting.route" class="my-3" />
      </div>
    </section>
    <section v-if="teaches && sheet.assessment.curve" class="sheet no-print grid gap-4 xl:grid-cols-[3fr_2fr]">
      <CurvePicture
        :curve="sheet.assessment.curve"
        :indicators="sheet.indicators"
        :chosen="draft.chemistry.indicator"
        :unit="sheet.units.volume"
        :rests="sheet.rests"
        :title="draft.title"
      />
      <IndicatorList
        still
        :indicators="sheet.indicators"
        :chosen="draft.chemistry.indicator"
        :unit="sheet.units.volume"
      />
    </section>
    <section v-if="!teaches" class="no-print" :class="!within && 'sheet'">
      <h2 class="mb-1 font-bold text-alarm">{{ say('bench.cautions') }}</h2>
      <ul class="list-disc pl-5">
        <li v-for="c in sheet.setting.cautions" :key="c">{{ c }}</li>
      </ul>
      <p class="font-semibold">{{ say('bench.localRules') }}</p>
    </section>
    <PreLab
      v-if="classId && practical && given && !teaches"
      :plan="sheet"
      :class-id="classId"
      :practical="practical"
      :given="given"
      :instructor="false"
    />
  </div>
</template>
