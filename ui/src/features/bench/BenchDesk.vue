<script setup lang="ts">
import { useEventListener, useMediaQuery } from '@vueuse/core';
import { computed, ref, toRef } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Notebook, Trial } from '@/api/client';
import AgreementStrip from '@/features/bench/AgreementStrip.vue';
import Burette from '@/features/bench/Burette.vue';
import EntryPad from '@/features/bench/EntryPad.vue';
import FindingList from '@/features/bench/FindingList.vue';
import KeysDialog from '@/features/bench/KeysDialog.vue';
import NoteDialog from '@/features/bench/NoteDialog.vue';
import type { Refused } from '@/features/bench/outbox';
import ReasonDialog from '@/features/bench/ReasonDialog.vue';
import SendState from '@/features/bench/SendState.vue';
import SettingPanel from '@/features/bench/SettingPanel.vue';
import TrialTable from '@/features/bench/TrialTable.vue';
import { lastReading, useBench } from '@/features/bench/useBench';

const props = defineProps<{ notebook: Notebook }>();
const { t, tm } = useI18n();
const bench = useBench(toRef(props, 'notebook'));

const wide = useMediaQuery('(min-width: 64rem)');
const text = ref('');
const problem = ref('');
const busy = ref(false);
const pad = ref<InstanceType<typeof EntryPad>>();

type AboutTrial =
  { what: 'correct'; trial: Trial; mark: 'start' | 'end' } | { what: 'aside' | 'restore' | 'withdraw'; trial: Trial };
type Asking = AboutTrial | { what: 'note' | 'keys' };
const asking = ref<Asking>();
const aboutTrial = computed(() => (asking.value && 'trial' in asking.value ? asking.value : undefined));
const askingProblem = ref('');

const name = (trial: Trial) => props.notebook.sheet.trials[trial.id]?.name ?? '';
const lower = (s: string) => s.charAt(0).toLowerCase() + s.slice(1);
const reasons = (kind: string) => tm(`reasons.${kind}`) as string[];
const trials = computed(() => props.notebook.sheet.evaluation.trials);

const dialog = computed(() => {
  const a = aboutTrial.value;
  if (!a) return undefined;
  const trial = lower(name(a.trial));
  switch (a.what) {
    case 'correct':
      return {
        title: t('dialog.correctTitle', { place: `${trial}, ${lower(t('bench.' + a.mark))}` }),
        text: t('dialog.written', { text: a.trial[a.mark]?.text ?? '' }),
        reasons: reasons('correction'),
        asksValue: true,
      };
    case 'aside':
      return { title: t('dialog.asideTitle', { trial }), text: t('dialog.asideText'), reasons: reasons('aside') };
    case 'restore':
      return {
        title: t('dialog.restoreTitle', { trial }),
        text: a.trial.setAside?.text ?? '',
        reasons: reasons('restore'),
      };
    default:
      return {
        title: t('dialog.withdrawTitle', { trial }),
        text: t('dialog.withdrawText'),
        reasons: reasons('withdraw'),
      };
  }
});

async function record(reading: string, opens: 'rough' | 'accurate') {
  problem.value = '';
  if (!reading) {
    problem.value = t('bench.nothingTyped');
    return;
  }
  busy.value = true;
  text.value = '';
  const refused = await bench.record(reading, opens);
  busy.value = false;
  if (refused) {
    problem.value = refused.why;
    text.value = reading;
  }
  pad.value?.focus();
}

async function decided(reason: string, value: string) {
  const a = aboutTrial.value;
  if (!a) return;
  let refused: Refused | undefined;
  if (a.what === 'correct') refused = await bench.correct(a.trial[a.mark]!.entry, value, reason);
  else if (a.what === 'aside') refused = await bench.setAside(a.trial.id, reason);
  else refused = await bench.withdraw(a.what === 'restore' ? a.trial.setAside!.entry : a.trial.id, reason);
  close(refused?.why);
}

async function noted(note: string) {
  const refused = await bench.note(note);
  close(refused?.why);
}

function close(why = '') {
  askingProblem.value = why;
  if (why) return;
  asking.value = undefined;
  pad.value?.focus();
}

function ask(a: Asking) {
  askingProblem.value = '';
  asking.value = a;
}

// One key does it, unless text is being written: the reading itself holds
// digits only, so these keys are free there too.
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (!props.notebook.mayWrite || asking.value || e.ctrlKey || e.metaKey || e.altKey) return;
  const target = e.target as HTMLElement;
  if (target.matches('input:not(#reading):not([type=radio]), textarea, select')) return;
  const last = lastReading(trials.value);
  if (e.key === '/' && last) ask({ what: 'correct', ...last });
  else if (e.key === '-' && last && text.value === '')
    ask({ what: last.trial.titre ? 'aside' : 'withdraw', trial: last.trial });
  else if (e.key === '?') ask({ what: 'keys' });
  else return;
  e.preventDefault();
});
</script>

<template>
  <p
    class="panel mb-3 border-l-8 !border-l-accent p-3 text-xl leading-snug font-semibold sm:text-2xl"
    aria-live="polite"
    data-test="next"
  >
    {{ notebook.sheet.next }}
  </p>
  <SendState />
  <p v-if="!notebook.mayWrite" class="mb-3 text-quiet">{{ $t('bench.readOnly', { name: notebook.student }) }}</p>
  <div
    class="grid items-start gap-3 max-lg:grid-cols-[7.25rem_1fr] lg:grid-cols-[230px_minmax(300px,360px)_1fr]"
    :class="!notebook.mayWrite && 'lg:!grid-cols-[230px_1fr]'"
  >
    <div class="panel p-1 sm:p-2">
      <Burette :notebook="notebook" :small="!wide" />
    </div>
    <div v-if="notebook.mayWrite" class="grid gap-3 max-lg:contents">
      <EntryPad ref="pad" v-model="text" :notebook="notebook" :busy="busy" :problem="problem" @record="record" />
      <div class="flex flex-wrap gap-2 max-lg:col-span-2">
        <button
          type="button"
          class="button grow"
          :disabled="!lastReading(trials)"
          @click="ask({ what: 'correct', ...lastReading(trials)! })"
        >
          {{ $t('bench.correctLast') }}
        </button>
        <button type="button" class="button grow" @click="ask({ what: 'note' })">{{ $t('bench.note') }}</button>
        <button type="button" class="button grow max-lg:hidden" @click="ask({ what: 'keys' })">
          {{ $t('bench.keys') }}
        </button>
      </div>
    </div>
    <div class="grid gap-3 max-lg:col-span-2">
      <section class="panel p-3" :aria-label="$t('bench.agreement')">
        <AgreementStrip :notebook="notebook" />
        <p
          class="font-semibold"
          :class="notebook.sheet.evaluation.agreement.status === 'agreed' && 'text-agree'"
          data-test="agreement"
        >
          {{ notebook.sheet.agreement }}
        </p>
        <p v-if="notebook.sheet.answer" class="mt-1 text-lg">
          {{ notebook.sheet.answer.statement }}
          <RouterLink class="font-semibold underline" :to="{ name: 'result', params: { id: notebook.id } }">{{
            $t('bench.working')
          }}</RouterLink>
        </p>
      </section>
      <section class="panel p-3">
        <TrialTable
          v-if="trials.length"
          :notebook="notebook"
          :actions="notebook.mayWrite"
          @correct="(trial, mark) => ask({ what: 'correct', trial, mark })"
          @aside="(trial) => ask({ what: 'aside', trial })"
          @restore="(trial) => ask({ what: 'restore', trial })"
          @withdraw="(trial) => ask({ what: 'withdraw', trial })"
        />
        <p v-else class="text-quiet">{{ $t(notebook.mayWrite ? 'bench.empty' : 'bench.emptyReader') }}</p>
      </section>
      <section v-if="notebook.sheet.findings.length" class="panel p-3">
        <h2 class="label mb-2">{{ $t('bench.look') }}</h2>
        <FindingList :notebook="notebook" />
      </section>
      <SettingPanel :notebook="notebook" />
    </div>
  </div>
  <ReasonDialog
    v-if="dialog"
    :title="dialog.title"
    :text="dialog.text"
    :reasons="dialog.reasons"
    :asks-value="dialog.asksValue"
    :problem="askingProblem"
    @done="decided"
    @close="close()"
  />
  <NoteDialog v-if="asking?.what === 'note'" :problem="askingProblem" @done="noted" @close="close()" />
  <KeysDialog v-if="asking?.what === 'keys'" @close="close()" />
</template>
