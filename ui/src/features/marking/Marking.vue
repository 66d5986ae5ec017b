<script setup lang="ts">
// Where a class is marked: every report with what is proposed and awarded; what many have
// in common is accepted together; the marks are released.
import { useStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useDesk, useDifferences, useMarkingChange, type DeskRow, type How } from '@/api/marking';
import { written } from '@/features/marking/marks';
import { state, takeUp } from '@/features/marking/outgoing';
import RequestAnswer from '@/features/marking/RequestAnswer.vue';
import SchemeDialog from '@/features/marking/SchemeDialog.vue';
import AppDialog from '@/shared/AppDialog.vue';
import { rove } from '@/shared/rove';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string }>();
const where = { class: props.classId, practical: props.practical };
const how = useStorage<How>('exactflask.marking', { second: false, anonymous: false, order: 'name' }, sessionStorage);
const query = useDesk(where, how);
const desk = query.data;
const change = useMarkingChange(where);
takeUp(() => void query.refetch());

const rows = computed(() => desk.value?.reports ?? []);
const whole = (r: DeskRow) => r.open === 0;
const counts = computed(() => ({
  marked: rows.value.filter(whole).length,
  begun: rows.value.filter((r) => !whole(r) && r.open < r.cells.length).length,
  released: rows.value.filter((r) => r.released).length,
}));
const first = computed(() => rows.value.find((r) => !whole(r)) ?? rows.value[0]);
const dialog = ref<'' | 'scheme' | 'release' | 'differences'>('');
const trouble = ref('');
const said = ref('');
const busy = ref(false);
async function attempt(what: () => Promise<unknown>) {
  trouble.value = said.value = '';
  busy.value = true;
  try {
    await what();
  } catch (e) {
    trouble.value = e instanceof Error ? e.message : String(e);
  } finally {
    busy.value = false;
  }
}

/** The criterion whose full and certain proposals are listed before they are accepted. */
// The heads are one stop of the Tab key: the one that had the focus last, else the first that does something.
const chosenHead = ref(-1);
const head = computed(() => (chosenHead.value >= 0 ? chosenHead.value : anyFull.value.findIndex(Boolean)));
const batch = ref(-1);
const fullOf = (i: number) => rows.value.filter((r) => r.cells[i]?.full && r.cells[i].award?.marks === undefined);
const batched = computed(() => (batch.value < 0 ? [] : fullOf(batch.value)));
const anyFull = computed(() => desk.value?.criteria.map((_, i) => fullOf(i).length) ?? []);
const acceptBatch = () =>
  attempt(async () => {
    const criterion = desk.value!.criteria[batch.value]!.id;
    const { count } = await change.together(
      criterion,
      batched.value.map((r) => r.notebook),
    );
    batch.value = -1;
    said.value = say('marking.accepted', {}, count);
  });
const acceptEvery = () =>
  attempt(async () => {
    let all = 0;
    const now = desk.value!.criteria.map((c, i) => ({ id: c.id, of: fullOf(i).map((r) => r.notebook) }));
    for (const c of now) if (c.of.length) all += (await change.together(c.id, c.of)).count;
    batch.value = -1;
    said.value = say('marking.accepted', {}, all);
  });

const chosen = ref<string[]>([]);
const toRelease = computed(() => rows.value.filter((r) => whole(r) && !r.released));
function openRelease() {
  chosen.value = toRelease.value.map((r) => r.notebook);
  dialog.value = 'release';
}
const release = () =>
  attempt(async () => {
    const done = await change.release(chosen.value);
    dialog.value = '';
    said.value = say('marking.released', {}, done.count);
    if (done.left.length) trouble.value = say('marking.leftOut', { names: done.left.join(', ') });
  });
const { data: differences } = useDifferences(where, () => dialog.value === 'differences');
const params = computed(() => ({ classId: props.classId, practical: props.practical }));
const orders = ['name', 'code', 'similar'] as const;
</script>

<template>
  <div v-if="desk" class="grid grid-cols-1 gap-3" data-test="desk">
    <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
      <h2 class="sr-only">{{ say('title.marking') }}</h2>
      <RouterLink
        v-if="first"
        class="button-main min-h-10"
        data-test="begin-marking"
        :to="{ name: 'mark', params: { ...params, notebook: first.notebook } }"
        >{{ say('marking.begin') }}</RouterLink
      >
      <button
        v-if="desk.mayRelease"
        type="button"
        class="button min-h-10"
        :disabled="!toRelease.length"
        data-test="release"
        @click="openRelease"
      >
        {{ say('marking.release', {}, toRelease.length) }}
      </button>
      <button
        v-if="desk.mayRelease"
        type="button"
        class="button min-h-10"
        data-test="scheme"
        @click="dialog = 'scheme'"
      >
        {{ say('marking.scheme') }}
      </button>
    </div>
    <div class="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
      <p data-test="progress">
        {{ say('marking.progress', { marked: counts.marked, of: rows.length, released: counts.released }) }}
        <span v-if="desk.missing" class="text-quiet">{{ say('marking.missing', {}, desk.missing) }}</span>
      </p>
      <label class="flex items-center gap-1"
        >{{ say('marking.order') }}
        <select v-model="how.order" class="field min-h-10 w-auto">
          <option v-for="o in orders" :key="o" :value="o">{{ say(`marking.by.${o}`) }}</option>
        </select></label
      >
      <label class="flex min-h-10 items-center gap-2"
        ><input v-model="how.anonymous" type="checkbox" class="size-5 accent-accent" />{{
          say('marking.anonymous')
        }}</label
      >
      <label class="flex min-h-10 items-center gap-2"
        ><input v-model="how.second" type="checkbox" class="size-5 accent-accent" />{{ say('marking.second') }}</label
      >
      <button type="button" class="min-h-10 underline" @click="dialog = 'differences'">
        {{ say('marking.differences') }}
      </button>
    </div>
    <p v-if="how.second" class="rounded-glass bg-tint p-2 font-semibold" role="status">{{ say('marking.secondOn') }}</p>
    <p v-if="state.waiting" class="font-semibold text-rough" role="status">
      {{ say('marking.waits', {}, state.waiting) }}
    </p>
    <p v-if="trouble" class="font-semibold text-alarm" role="alert">{{ trouble }}</p>
    <p v-if="said" class="font-semibold text-agree" role="status">{{ said }}</p>
    <RequestAnswer
      v-for="r in desk.requests"
      :key="r.id"
      :request="r"
      :may-answer="desk.mayRelease"
      :answer="(text) => change.answerRequest(r.notebook, r.id, text)"
    />
    <p v-if="!rows.length" class="sheet text-quiet">{{ say('marking.empty') }}</p>
    <template v-else>
      <!-- The heads are numbers, and stand here in words, so that nobody turns their head. -->
      <ol class="columns-2 gap-x-6 text-sm max-sm:hidden md:columns-3 xl:columns-4" aria-hidden="true">
        <li v-for="(c, i) in desk.criteria" :key="c.id" class="flex break-inside-avoid gap-2 leading-snug">
          <span class="figure w-6 shrink-0 text-right font-semibold">{{ i + 1 }}</span>
          <span
            >{{ c.title }} <span class="figure text-quiet">/{{ written(c.most) }}</span></span
          >
        </li>
      </ol>
      <div class="sheet overflow-x-auto">
        <table class="w-full border-collapse text-left text-sm">
          <thead>
            <tr class="border-b-2 border-hair align-bottom" data-test="heads" @keydown="rove">
              <th scope="col" class="sticky left-0 bg-glass py-1 pl-3">{{ say('person.name') }}</th>
              <th v-for="(c, i) in desk.criteria" :key="c.id" scope="col" class="px-0 max-sm:hidden">
                <button
                  type="button"
                  class="figure print-keep grid min-h-10 w-full place-items-center font-semibold hover:bg-tint disabled:opacity-100"
                  :disabled="!anyFull[i] || !desk.mayMark || how.second"
                  :title="say('marking.batch', { title: c.title })"
                  :tabindex="i === head ? 0 : -1"
                  @focus="chosenHead = i"
                  @click="batch = i"
                >
                  <span :class="(anyFull[i] ?? 0) > 0 && desk.mayMark && !how.second && 'underline decoration-dotted'"
                    ><span aria-hidden="true">{{ i + 1 }}</span
                    ><span class="sr-only">{{ c.title }}, {{ written(c.most) }}</span></span
                  >
                </button>
              </th>
              <th scope="col" class="px-2 py-1 text-right">{{ say('marking.total') }}</th>
              <th scope="col" class="py-1 pr-3">{{ say('marking.state') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="r in rows"
              :key="r.notebook"
              class="border-t border-hair hover:bg-tint"
              :data-report="r.notebook"
            >
              <th scope="row" class="sticky left-0 bg-glass py-0 pl-3 font-semibold whitespace-nowrap">
                <RouterLink
                  class="inline-flex min-h-8 items-center underline max-sm:min-h-11"
                  :to="{ name: 'mark', params: { ...params, notebook: r.notebook } }"
                  >{{ r.name }}</RouterLink
                >
                <span v-if="r.late" class="ml-1 font-normal text-rough">{{ say('marking.late') }}</span>
              </th>
              <td
                v-for="(cell, i) in r.cells"
                :key="i"
                class="figure px-0.5 text-center max-sm:hidden"
                :title="desk.criteria[i]?.title"
              >
                <strong v-if="cell.award?.marks !== undefined">{{ written(cell.award.marks) }}</strong>
                <span
                  v-else-if="cell.proposed !== undefined"
                  :class="cell.proposed < desk.criteria[i]!.most ? 'text-rough' : 'text-quiet'"
                  >{{ written(cell.proposed) }}</span
                >
                <span v-else class="text-quiet">?</span>
              </td>
              <td class="figure px-2 text-right font-bold">
                {{ r.open === r.cells.length ? '–' : written(r.total)
                }}<span class="font-normal text-quiet">/{{ written(desk.possible) }}</span>
              </td>
              <td class="pr-3 whitespace-nowrap">
                <span v-if="r.released" class="text-agree">{{ say('marking.isReleased') }}</span>
                <span v-else-if="whole(r)" class="font-semibold">{{ say('marking.isMarked') }}</span>
                <span v-else-if="r.open < r.cells.length" class="text-quiet">{{
                  say('marking.open', {}, r.open)
                }}</span>
                <span v-if="r.requests" class="ml-1 font-semibold text-rough">{{ say('marking.asks') }}</span>
                <span v-if="r.broken" class="font-semibold text-alarm">{{ r.broken }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
    <p class="text-sm text-quiet">{{ say('marking.legend') }}</p>

    <AppDialog v-if="batch >= 0" :title="say('marking.batchTitle')" @close="batch = -1">
      <p class="mb-2 font-semibold">{{ desk.criteria[batch]?.title }}</p>
      <p class="mb-2">
        {{ say('marking.batchIntro', { marks: written(desk.criteria[batch]?.most) }, batched.length) }}
      </p>
      <ul class="mb-3 max-h-60 columns-2 overflow-y-auto" data-test="batched">
        <li v-for="r in batched" :key="r.notebook">{{ r.name }}</li>
      </ul>
      <button
        type="button"
        class="button-main mb-2 w-full"
        :disabled="busy"
        data-test="accept-batch"
        @click="acceptBatch"
      >
        {{ say('marking.batchAccept', {}, batched.length) }}
      </button>
      <button type="button" class="button w-full" :disabled="busy" data-test="accept-every" @click="acceptEvery">
        {{
          say(
            'marking.batchEvery',
            {},
            anyFull.reduce((a, b) => a + b, 0),
          )
        }}
      </button>
    </AppDialog>
    <AppDialog v-if="dialog === 'release'" :title="say('marking.releaseTitle')" @close="dialog = ''">
      <p class="mb-2">{{ say('marking.releaseIntro') }}</p>
      <ul class="mb-3 max-h-72 overflow-y-auto">
        <li v-for="r in toRelease" :key="r.notebook">
          <label class="flex min-h-10 items-center gap-2"
            ><input v-model="chosen" type="checkbox" class="size-5 accent-accent" :value="r.notebook" />
            <span class="grow">{{ r.name }}</span> <span class="figure">{{ written(r.total) }}</span></label
          >
        </li>
      </ul>
      <button
        type="button"
        class="button-main w-full"
        :disabled="busy || !chosen.length"
        data-test="release-now"
        @click="release"
      >
        {{ say('marking.release', {}, chosen.length) }}
      </button>
    </AppDialog>
    <AppDialog v-if="dialog === 'differences'" :title="say('marking.differences')" @close="dialog = ''">
      <p v-if="!differences?.length">{{ say('marking.noDifferences') }}</p>
      <ul v-else class="grid gap-1">
        <li v-for="(d, i) in differences" :key="i">
          <strong>{{ d.name }}</strong> · {{ d.criterion }}: {{ d.first.by }}
          <span class="figure">{{ written(d.first.marks) }}</span>, {{ d.second.by }}
          <span class="figure">{{ written(d.second.marks) }}</span>
        </li>
      </ul>
    </AppDialog>
    <SchemeDialog
      v-if="dialog === 'scheme'"
      :desk="desk"
      :draft="`scheme.${classId}.${practical}.${desk.revision}`"
      :change="change"
      @close="dialog = ''"
    />
  </div>
  <Trouble v-else-if="query.error.value" :error="query.error.value" @again="query.refetch()" />
  <Waiting v-else />
</template>
