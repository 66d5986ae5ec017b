<script setup lang="ts">
// One report on the desk: the evidence on one side, the criteria on the other; everything
// by keyboard.
import { useEventListener, useStorage } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useDesk, useMarkSheet, useMarkingChange, type How, type MarkLine, type MarkSheet } from '@/api/marking';
import CommentBox from '@/features/marking/CommentBox.vue';
import EvidenceList from '@/features/marking/EvidenceList.vue';
import MarkKeys from '@/features/marking/MarkKeys.vue';
import MarkList from '@/features/marking/MarkList.vue';
import { byDigit, neighbour, nextOpen, written } from '@/features/marking/marks';
import { give, goingFor, state, takeUp } from '@/features/marking/outgoing';
import RequestAnswer from '@/features/marking/RequestAnswer.vue';
import ReportPage from '@/features/report/ReportPage.vue';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string; notebook: string }>();
const router = useRouter();
const where = { class: props.classId, practical: props.practical };
const how = useStorage<How>('exactflask.marking', { second: false, anonymous: false, order: 'name' }, sessionStorage);
const { data: desk, refetch: again } = useDesk(where, how);
const { query, ready } = useMarkSheet(() => props.notebook, how);
const change = useMarkingChange(where);
const lines = ref<MarkLine[]>([]);
const at = ref(0);
const line = computed(() => lines.value[at.value]);
const commenting = ref(false);
const keys = ref(false);
const list = ref<InstanceType<typeof MarkList>>();
// What can be taken back: the awards of one go, or of Enters that followed each other at once.
const undone = ref<{ criterion: string; marks?: number; comment: string }[][]>([]);
let strokes = 0; // when the last was
const atOnce = 400; // ms between strokes of a run
const seen = 150; // ms that a criterion is shown before what is proposed for it can be accepted
let shownSince = 0;

/** What the server says, with what is on its way to it. */
function show(sheet: MarkSheet) {
  const waits = goingFor(sheet.notebook, how.value.second);
  lines.value = sheet.lines.map((l) => {
    const g = waits.findLast((w) => w.criterion === l.id);
    if (!g) return l;
    return {
      ...l,
      award: { id: l.award?.id ?? 0, how: 'awarded', by: '', at: '', marks: g.marks, comment: g.comment },
    };
  });
}
let shownFor = '';
watch(
  () => query.data.value,
  (sheet) => {
    if (!sheet || sheet.notebook !== props.notebook) return;
    show(sheet);
    if (shownFor === sheet.notebook) return;
    shownFor = sheet.notebook;
    undone.value = [];
    const open = sheet.lines.findIndex((l) => l.award?.marks === undefined);
    choose(open < 0 ? 0 : open);
    // The next ones are there before they are asked for.
    for (const step of [1, -1] as const) {
      const next = neighbour(rows.value, props.notebook, step);
      if (next) void ready(next);
    }
  },
  { immediate: true },
);
takeUp((sheet?: MarkSheet) => {
  if (!sheet) void query.refetch();
  else if (sheet.notebook === props.notebook) show(sheet);
  if (!state.waiting) void again();
});

const rows = computed(() => desk.value?.reports ?? []);
const place = computed(() => rows.value.findIndex((r) => r.notebook === props.notebook));
const left = computed(() => rows.value.filter((r) => r.open > 0).length);
const total = computed(() => lines.value.reduce((sum, l) => sum + (l.award?.marks ?? 0), 0));
const open = computed(() => lines.value.filter((l) => l.award?.marks === undefined).length);
const mayMark = computed(() => desk.value?.mayMark ?? false);
// The pace is counted while the desk is open: reports that became whole, and since when.
const began = useStorage('exactflask.marking.began', () => ({ at: Date.now(), done: 0 }), sessionStorage);

function choose(i: number) {
  at.value = Math.max(0, Math.min(lines.value.length - 1, i));
  shownSince = performance.now();
  commenting.value = false;
  void nextTick(() => list.value?.show(at.value));
}

function award(
  given: { line: MarkLine; marks?: number; comment?: string; undo?: boolean }[],
  accepted = false, // what was proposed, by Enter
) {
  if (!mayMark.value || !given.length) return;
  const before = open.value;
  const takenBack = given
    .filter((g) => !g.undo)
    .map((g) => ({ criterion: g.line.id, marks: g.line.award?.marks, comment: g.line.award?.comment ?? '' }));
  if (takenBack.length) {
    const run = accepted && performance.now() - strokes < atOnce ? undone.value.pop() : undefined;
    undone.value.push([...(run ?? []), ...takenBack]);
    strokes = accepted ? performance.now() : 0;
  }
  for (const g of given) {
    const i = lines.value.findIndex((l) => l.id === g.line.id);
    const comment = g.comment ?? g.line.award?.comment ?? '';
    const now = { id: g.line.award?.id ?? 0, how: 'awarded' as const, by: '', at: '', marks: g.marks, comment };
    lines.value[i] = { ...g.line, award: now };
  }
  give(
    given.map((g) => ({
      notebook: props.notebook,
      second: how.value.second,
      criterion: g.line.id,
      marks: g.marks,
      comment: g.comment ?? g.line.award?.comment ?? '',
      undo: g.undo,
      follows: g.line.award?.id ?? 0,
    })),
  );
  if (before > 0 && open.value === 0) began.value.done++;
}
const onward = () => {
  const next = nextOpen(lines.value, at.value);
  if (next >= 0) choose(next);
};
function mark(marks: number, accepted = false) {
  if (line.value) award([{ line: line.value, marks }], accepted);
  onward();
}
/** What is proposed is accepted; where all is awarded, the next report comes. */
function accept() {
  const l = line.value;
  if (open.value === 0) go(1, true);
  else if (performance.now() - shownSince < seen)
    return; // nobody has seen it yet
  else if (l && l.proposed !== undefined) mark(l.proposed, true);
  else onward();
}
function acceptAll() {
  award(
    lines.value
      .filter((l) => l.certain && l.proposed !== undefined && l.award?.marks === undefined)
      .map((l) => ({ line: l, marks: l.proposed })),
  );
  onward();
}
function half() {
  const l = line.value;
  const now = l?.award?.marks;
  if (l && now !== undefined && now + 0.5 <= l.most) award([{ line: l, marks: now + 0.5 }]);
}
function undo() {
  strokes = 0;
  const run = undone.value.pop()?.reverse() ?? [];
  let first = -1;
  for (const last of run) {
    const i = lines.value.findIndex((l) => l.id === last.criterion);
    if (i < 0) continue;
    award([{ line: lines.value[i]!, marks: last.marks, comment: last.comment, undo: true }]);
    first = i;
  }
  if (first >= 0) choose(first);
}
function comment(text: string) {
  commenting.value = false;
  const l = line.value;
  if (l) award([{ line: l, marks: l.award?.marks, comment: text }]);
  list.value?.focus();
}
function go(step: 1 | -1, toOpen = false) {
  const next =
    neighbour(rows.value, props.notebook, step, toOpen) || (toOpen ? neighbour(rows.value, '', 1, true) : '');
  if (next && next !== props.notebook) void router.push({ name: 'mark', params: { ...params.value, notebook: next } });
  else if (toOpen) void router.push({ name: 'marking', params: params.value });
}
const params = computed(() => ({ classId: props.classId, practical: props.practical }));

const byKey: Record<string, () => void> = {
  ArrowDown: () => choose(at.value + 1),
  ArrowUp: () => choose(at.value - 1),
  Enter: accept,
  a: acceptAll,
  h: half,
  u: undo,
  c: () => (commenting.value = true),
  n: () => go(1),
  b: () => go(-1),
  o: () => go(1, true),
  '?': () => (keys.value = true),
  Escape: () => void router.push({ name: 'marking', params: params.value }),
};
useEventListener('keydown', (e) => {
  const inField = e.target instanceof HTMLElement && e.target.closest('input, textarea, select, [role=dialog]');
  const onButton = e.key === 'Enter' && e.target instanceof HTMLElement && e.target.closest('button, a, summary');
  if (inField || onButton || e.ctrlKey || e.metaKey || e.altKey || !line.value) return;
  const marks = byDigit(e.key, line.value.most);
  if (marks === undefined && !byKey[e.key]) return;
  e.preventDefault();
  if (e.repeat) return; // a held key marks once
  if (marks !== undefined) mark(marks);
  else byKey[e.key]!();
});
</script>

<template>
  <div v-if="query.data.value && lines.length" class="grid grid-cols-1 gap-2" data-test="mark">
    <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
      <RouterLink :to="{ name: 'marking', params }" class="inline-flex min-h-10 items-center underline">{{
        say('marking.toDesk')
      }}</RouterLink>
      <h1 class="min-w-0 grow truncate text-xl font-bold" data-test="whose">
        {{ query.data.value.name }}
        <span class="text-base font-normal text-quiet">{{ desk?.title }}</span>
      </h1>
      <p class="text-sm text-quiet" data-test="left">
        {{ say('marking.place', { place: place + 1, of: rows.length }) }} · {{ say('marking.left', {}, left) }}
        <template v-if="began.done"
          >· {{ say('marking.pace', { seconds: Math.round((Date.now() - began.at) / 1000 / began.done) }) }}</template
        >
      </p>
      <button type="button" class="button min-h-10 px-3" @click="go(-1)">{{ say('marking.before') }}</button>
      <button type="button" class="button min-h-10 px-3" data-test="next" @click="go(1)">
        {{ say('marking.next') }}
      </button>
      <button type="button" class="button min-h-10 px-3" @click="keys = true">{{ say('marking.keys') }}</button>
    </div>
    <p v-if="how.second" class="rounded-glass bg-tint p-2 font-semibold" role="status">{{ say('marking.secondOn') }}</p>
    <p v-if="state.refused" class="font-semibold text-alarm" role="alert">{{ state.refused }}</p>
    <p v-if="state.offline" class="font-semibold text-rough" role="status" data-test="marks-wait">
      {{ say('marking.waits', {}, state.waiting) }}
    </p>
    <div class="grid items-start gap-3 lg:grid-cols-[1fr_25rem]">
      <div class="order-2 grid min-w-0 gap-3 lg:order-1">
        <EvidenceList v-if="line" :line="line" />
        <CommentBox
          v-if="commenting && line"
          :key="line.id"
          :where="where"
          :criterion="line.id"
          :title="line.title"
          :text="line.award?.comment ?? ''"
          :draft="`comment.${notebook}.${line.id}`"
          @done="comment"
          @close="commenting = false"
        />
        <RequestAnswer
          v-for="r in query.data.value.requests"
          :key="r.id"
          :request="r"
          :may-answer="desk?.mayRelease ?? false"
          :answer="(text) => change.answerRequest(r.notebook, r.id, text)"
        />
        <ReportPage :report="query.data.value.report" :notebook="notebook" class="max-w-none" />
      </div>
      <section class="panel order-1 lg:sticky lg:top-2 lg:order-2">
        <div class="flex items-baseline justify-between border-b border-hair px-3 py-1.5">
          <p class="font-bold">
            <span class="figure text-lg" data-test="total">{{ written(total) }}</span>
            {{ say('marking.of', { possible: written(query.data.value.possible) }) }}
          </p>
          <p class="text-sm" :class="open ? 'text-quiet' : 'font-semibold text-agree'" role="status">
            {{ open ? say('marking.open', {}, open) : say('marking.whole') }}
          </p>
        </div>
        <div v-if="line && mayMark" class="flex flex-wrap gap-1 border-b border-hair p-2">
          <button
            v-for="n in Math.floor(line.most) + 1"
            :key="n"
            type="button"
            class="figure min-h-10 min-w-10 rounded-glass border border-hair px-2 font-semibold"
            :class="line.award?.marks === n - 1 && 'chosen'"
            @click="mark(n - 1)"
          >
            {{ n - 1 }}
          </button>
          <button type="button" class="button min-h-10 px-2" @click="half">+½</button>
          <button type="button" class="button min-h-10 px-2" @click="commenting = true">
            {{ say('marking.comment') }}
          </button>
          <button type="button" class="button min-h-10 px-2" :disabled="!undone.length" @click="undo">
            {{ say('marking.undo') }}
          </button>
          <button type="button" class="button-main min-h-10 grow px-2" data-test="accept-all" @click="acceptAll">
            {{ say('marking.acceptAll') }}
          </button>
        </div>
        <MarkList ref="list" :lines="lines" :at="at" @choose="choose" />
      </section>
    </div>
    <MarkKeys v-if="keys" @close="keys = false" />
  </div>
  <Trouble v-else-if="query.error.value" :error="query.error.value" @again="query.refetch()" />
  <Waiting v-else />
</template>
