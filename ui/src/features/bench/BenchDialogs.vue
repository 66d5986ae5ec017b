<script setup lang="ts">
// The dialogs of the bench: each writes one entry, or says why it could not.
import { computed, ref, shallowRef, watch } from 'vue';
import type { Notebook, Schemas } from '@/api/client';
import { inWords, type Asking, type InWords } from '@/notebook/asking';
import CalibrateDialog from '@/features/bench/probe/CalibrateDialog.vue';
import CautionsDialog from '@/features/bench/dialogs/CautionsDialog.vue';
import GlassDialog from '@/features/bench/dialogs/GlassDialog.vue';
import KeysDialog from '@/features/bench/dialogs/KeysDialog.vue';
import MeasuredDialog from '@/features/bench/dialogs/MeasuredDialog.vue';
import LeakDialog from '@/features/bench/dialogs/LeakDialog.vue';
import { dropDrafts } from '@/device/drafts';
import PartnerDialog from '@/features/bench/dialogs/PartnerDialog.vue';
import ReasonDialog from '@/features/bench/dialogs/ReasonDialog.vue';
import TextDialog from '@/features/bench/dialogs/TextDialog.vue';
import type { Bench } from '@/notebook/useBench';
import { useDoubt } from '@/notebook/useDoubt';
import PrepareDialog from '@/features/bench/dialogs/PrepareDialog.vue';
import PointsDialog from '@/features/bench/probe/PointsDialog.vue';
import ReadingsDialog from '@/features/bench/dialogs/ReadingsDialog.vue';
import WeighDialog from '@/features/bench/dialogs/WeighDialog.vue';
import { say, sayList } from '@/words';

const props = defineProps<{ notebook: Notebook; bench: Bench; asking: Asking | undefined }>();
const emit = defineEmits<{ close: [] }>();
const problem = ref('');
const inOwnWords = ref(false); // of glassware that is in no list
const asked = shallowRef<Partial<Schemas['Weigh']>>({});
const { doubt, write: doubted, forget } = useDoubt(() => props.bench);
watch(
  () => props.asking,
  (now) => {
    problem.value = '';
    inOwnWords.value = false;
    forget();
    if (now?.what === 'weigh')
      asked.value = now.standard ? { standard: true } : (props.notebook.sheet.next.weigh ?? {});
  },
  { immediate: true },
);

const lower = (s: string) => s.charAt(0).toLowerCase() + s.slice(1);

const reasoned = computed(() => {
  const a = props.asking;
  if (!a) return undefined;
  switch (a.what) {
    case 'correct':
      return {
        title: say('dialog.correctTitle', {
          place: `${lower(a.place.trial.name)}, ${lower(say(`bench.marks.${a.place.mark}`))}`,
        }),
        text: say('dialog.written', { text: a.place.reading.text }),
        reasons: sayList('reasons.correction'),
        asksValue: true,
      };
    case 'point':
    case 'strike':
      return {
        title: say(`points.${a.what}Title`, { burette: a.point.burette, shown: a.point.shown, unit: a.unit }),
        text: say(`points.${a.what}Text`, { text: `${a.point.burette} ${a.point.shown}` }),
        reasons: sayList(`reasons.${a.what}`),
        asksValue: a.what === 'point',
      };
    case 'aside':
    case 'restore':
    case 'withdraw':
      return {
        title: say(`dialog.${a.what}Title`, { trial: lower(a.trial.name) }),
        text: a.what === 'restore' ? (a.trial.setAside?.text ?? '') : say(`dialog.${a.what}Text`),
        reasons: sayList(`reasons.${a.what}`),
      };
  }
  return undefined;
});

const words = computed(() => {
  const what = props.asking?.what;
  return what && (inWords as readonly string[]).includes(what) ? (what as InWords) : undefined;
});

// Whose mass was asked for when the dialog was opened, and the one that this would take the place of.
const weighing = computed(() => {
  const { setting, trials } = props.notebook.sheet;
  if (asked.value.standard) return { what: setting.standard };
  const trial = trials.find((t) => t.id === asked.value.trial);
  return {
    what: setting.weighs,
    of: trial?.name ?? (asked.value.opens && say(`bench.new.${asked.value.opens}`)),
    before: asked.value.before,
  };
});

/** Closes when the entry was taken; else says why, and nothing typed is lost. */
async function write(entry: Promise<string | undefined>) {
  const about = props.asking;
  const draft = draftOf.value;
  const why = await entry;
  if (why === undefined) dropDrafts(draft);
  if (props.asking !== about) return; // the person has gone on
  problem.value = why ?? '';
  if (why === undefined) emit('close');
}

// What is half typed in a dialog is kept under what it is about.
const draftOf = computed(() => {
  const a = props.asking;
  const about =
    a?.what === 'correct'
      ? a.place.reading.entry
      : a && 'point' in a
        ? a.point.entry
        : a?.what === 'measured'
          ? a.value.what + (a.value.step ?? '')
          : a?.what === 'weigh'
            ? (asked.value.trial ?? '')
            : a && 'trial' in a
              ? a.trial.id
              : '';
  return `dialog.${props.notebook.id}.${a?.what ?? ''}.${about}`;
});

function decided(reason: string, value: string) {
  const a = props.asking;
  switch (a?.what) {
    case 'correct':
      return write(props.bench.correct(a.place.reading.entry, value, reason));
    case 'point':
      return write(props.bench.correct(a.point.entry, value, reason));
    case 'strike':
      return write(props.bench.withdraw(a.point.entry, reason));
    case 'aside':
      return write(props.bench.setAside(a.trial.id, reason));
    case 'restore':
      return write(props.bench.withdraw(a.trial.setAside!.entry, reason));
    case 'withdraw':
      return write(props.bench.withdraw(a.trial.id, reason));
  }
}

function said(text: string) {
  const about = words.value!;
  void write(about === 'note' ? props.bench.note(text) : props.bench.observe(about, text));
}
</script>

<template>
  <ReasonDialog
    v-if="reasoned"
    :draft="draftOf"
    :title="reasoned.title"
    :text="reasoned.text"
    :reasons="reasoned.reasons"
    :asks-value="reasoned.asksValue"
    :problem="problem"
    @done="decided"
    @close="emit('close')"
  />
  <GlassDialog
    v-else-if="asking?.what === 'glass' && notebook.glass?.length && !inOwnWords"
    :places="notebook.glass"
    :problem="problem"
    :doubt="doubt"
    @done="(step, piece) => write(doubted(bench.glass(step, piece), [step, piece]))"
    @words="inOwnWords = true"
    @close="emit('close')"
  />
  <TextDialog
    v-else-if="words"
    :draft="draftOf"
    :title="say(`bench.words.${words}`)"
    :label="say(`dialog.words.${words}`)"
    :most="words === 'note' ? 2000 : 300"
    :lines="words === 'note' ? 4 : 1"
    :problem="problem"
    @done="said"
    @close="emit('close')"
  />
  <WeighDialog
    v-else-if="asking?.what === 'weigh'"
    :draft="draftOf"
    :what="weighing.what"
    :trial="weighing.of"
    :before="weighing.before"
    :problem="problem"
    :doubt="doubt"
    @done="(of, full, emptied) => write(doubted(bench.weighing(of, full, emptied, asked), [full, emptied]))"
    @close="emit('close')"
  />
  <MeasuredDialog
    v-else-if="asking?.what === 'measured'"
    :draft="draftOf"
    :value="asking.value"
    :problem="problem"
    :doubt="doubt"
    @done="(value) => asking?.what === 'measured' && write(doubted(bench.measured(asking.value, value), value))"
    @take-back="(entry) => write(bench.withdraw(entry, say('dialog.measured.takenBack')))"
    @close="emit('close')"
  />
  <PrepareDialog
    v-else-if="asking?.what === 'prepare'"
    :draft="draftOf"
    :units="notebook.sheet.units"
    :problem="problem"
    :doubt="doubt"
    @done="(stock, taken, madeUp) => write(doubted(bench.prepare(stock, taken, madeUp), [stock, taken, madeUp]))"
    @close="emit('close')"
  />
  <LeakDialog
    v-else-if="asking?.what === 'leak'"
    :problem="problem"
    @done="(v) => write(bench.observe('leak', v))"
    @close="emit('close')"
  />
  <CautionsDialog v-else-if="asking?.what === 'cautions'" :notebook="notebook" @close="emit('close')" />
  <PartnerDialog v-else-if="asking?.what === 'partner'" :notebook="notebook" @close="emit('close')" />
  <ReadingsDialog v-else-if="asking?.what === 'readings'" :notebook="notebook" :bench="bench" @close="emit('close')" />
  <CalibrateDialog
    v-else-if="asking?.what === 'calibrate' && notebook.sheet.probe"
    :draft="draftOf"
    :notebook="notebook"
    :bench="bench"
    @close="emit('close')"
  />
  <PointsDialog v-else-if="asking?.what === 'points'" :notebook="notebook" :bench="bench" @close="emit('close')" />
  <KeysDialog v-else-if="asking?.what === 'keys'" @close="emit('close')" />
</template>
