<script setup lang="ts">
// What stands below the pad and the burette: what was recorded and follows from it, what
// is to be done before and after. It comes when the bench has been painted.
import { computed } from 'vue';
import type { Notebook, Trial } from '@/api/client';
import AgreementPanel from '@/features/bench/trials/AgreementPanel.vue';
import Checklist from '@/features/bench/panels/Checklist.vue';
import EvidencePanel from '@/features/bench/panels/EvidencePanel.vue';
import FindingList from '@/features/bench/panels/FindingList.vue';
import LogPanel from '@/features/bench/panels/LogPanel.vue';
import ProbePanel from '@/features/bench/probe/ProbePanel.vue';
import ResultLine from '@/features/bench/trials/ResultLine.vue';
import SettingPanel from '@/features/bench/panels/SettingPanel.vue';
import SetUpActions from '@/features/bench/panels/SetUpActions.vue';
import TrialTable from '@/features/bench/trials/TrialTable.vue';
import CurvePanel from '@/features/curve/CurvePanel.vue';
import type { Asking } from '@/notebook/asking';
import type { Bench, Timed } from '@/notebook/useBench';
import type { LiveOfBench } from '@/notebook/useProbe';
import { say } from '@/words';

const props = defineProps<{
  notebook: Notebook;
  bench: Bench;
  probe: LiveOfBench | undefined;
  small: boolean;
  /** What is being waited for, and how many seconds are left. */
  timing: Timed | '';
  left: number;
}>();
const emit = defineEmits<{
  ask: [what: Asking];
  check: [item: string];
  checkAll: [items: string[]];
  uncheck: [entry: string];
  belongs: [trial: Trial, sample: string];
  start: [what: Timed, seconds: number];
  done: [];
}>();
const sheet = computed(() => props.notebook.sheet);
// The set-up comes first while nothing is measured or made.
const early = computed(() => sheet.value.stage === 'untouched' || sheet.value.stage === 'making');
const making = computed(() => sheet.value.setting.madeOnly);
</script>

<template>
  <div class="grid min-w-0 grid-cols-1 gap-3">
    <ProbePanel v-if="probe" :notebook="notebook" :probe="probe" @done="emit('done')" />
    <CurvePanel
      v-if="sheet.probe && sheet.stage !== 'untouched'"
      :sheet="sheet"
      :actions="notebook.mayWrite"
      @point="(point) => emit('ask', { what: 'point', point, unit: sheet.probe!.unit })"
      @strike="(point) => emit('ask', { what: 'strike', point, unit: sheet.probe!.unit })"
      @points="emit('ask', { what: 'points' })"
    />
    <AgreementPanel v-if="sheet.stage !== 'untouched' && probe" :notebook="notebook" :small="small" />
    <Checklist
      v-if="early"
      :notebook="notebook"
      list="setup"
      :timing="timing"
      :left="left"
      @check="emit('check', $event)"
      @check-all="emit('checkAll', $event)"
      @uncheck="emit('uncheck', $event)"
      @wait="emit('start', 'leak', notebook.sheet.setting.wait)"
    >
      <SetUpActions
        :notebook="notebook"
        :timing="timing"
        :left="left"
        @ask="emit('ask', $event)"
        @start="(what, seconds) => emit('start', what, seconds)"
      />
    </Checklist>
    <section v-if="!making || sheet.trials.length" class="sheet">
      <TrialTable
        v-if="sheet.trials.length"
        :notebook="notebook"
        :actions="notebook.mayWrite"
        @correct="(place) => emit('ask', { what: 'correct', place })"
        @belongs="(trial, sample) => emit('belongs', trial, sample)"
        @aside="(trial) => emit('ask', { what: 'aside', trial })"
        @restore="(trial) => emit('ask', { what: 'restore', trial })"
        @withdraw="(trial) => emit('ask', { what: 'withdraw', trial })"
      />
      <p v-else class="text-quiet">{{ say(notebook.mayWrite ? 'bench.empty' : 'bench.emptyReader') }}</p>
    </section>
    <ResultLine :notebook="notebook" />
    <section v-if="sheet.findings.length" class="sheet">
      <h2 class="label mb-2">{{ say('bench.look') }}</h2>
      <FindingList :notebook="notebook" />
    </section>
    <EvidencePanel v-if="sheet.evidence.length" :notebook="notebook" :bench="bench" />
    <LogPanel :notebook="notebook" />
    <Checklist
      v-for="list in early ? [] : (['cleanup', 'setup'] as const)"
      :key="list"
      :notebook="notebook"
      :list="list"
      :timing="timing"
      :left="left"
      @check="emit('check', $event)"
      @check-all="emit('checkAll', $event)"
      @uncheck="emit('uncheck', $event)"
      @wait="emit('start', 'leak', notebook.sheet.setting.wait)"
    >
      <template v-if="list === 'cleanup'">
        <button
          v-for="w in ['waste', 'left', 'water-added'] as const"
          :key="w"
          type="button"
          class="button"
          @click="emit('ask', { what: w })"
        >
          {{ say(`bench.words.${w}`) }}
        </button>
      </template>
      <SetUpActions
        v-else
        :notebook="notebook"
        :timing="timing"
        :left="left"
        @ask="emit('ask', $event)"
        @start="(what, seconds) => emit('start', what, seconds)"
      />
    </Checklist>
    <SettingPanel :notebook="notebook" @ask="emit('ask', $event)" />
  </div>
</template>
