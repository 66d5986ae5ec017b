<script setup lang="ts">
// The week before: choose, and see at once what follows. For a student, what is
// to be done, its cautions, and the questions, without what answers them.
import { useQueryClient } from '@tanstack/vue-query';
import { useDebounceFn } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { Problem, type Schemas } from '@/api/client';
import { assess, planOf, setToClass } from '@/api/planning';
import { keys } from '@/api/keys';
import { useFresh } from '@/api/queries';
import { useClassPracticals } from '@/api/today';
import CurvePicture from '@/features/plan/CurvePicture.vue';
import { copyOf, editable, type Practical } from '@/features/plan/draft';
import { useSharedDraft } from '@/features/plan/kept';
import DryRunDialog from '@/features/plan/DryRunDialog.vue';
import IndicatorList from '@/features/plan/IndicatorList.vue';
import PlanBurette from '@/features/plan/PlanBurette.vue';
import PlanForm from '@/features/plan/PlanForm.vue';
import PreLab from '@/features/plan/PreLab.vue';
import { preview } from '@/api/settings';
import AppDialog from '@/shared/AppDialog.vue';
import { useSession } from '@/session/session';
import RoutePicture from '@/shared/RoutePicture.vue';
import Trouble from '@/shared/Trouble.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical?: string }>();
const router = useRouter();
const client = useQueryClient();
const session = useSession();
const draft = ref({} as Practical);
const begun = ref(false); // there is something to write in
const fresh = useFresh();
// What is being written is kept until it is set to the class.
const shared = useSharedDraft(props.classId, () => props.practical || undefined);
const unset = ref(false); // what is shown was written here and is not set to the class
let loaded = '';
const sheet = shallowRef<Schemas['Plan']>();
const given = shallowRef<Schemas['Given'][]>();
const problem = ref('');
const fault = shallowRef<{ path: string; text: string }>(); // where in the practical
const failed = shallowRef<Error>();
// Why it was not set: until something is changed, whatever the plan says meanwhile.
const refused = shallowRef<{ path: string; text: string }>();
const said = ref<'' | 'plan.set'>('');
const drying = ref(false);
const group = { students: 12, trials: 4, spare: 20, bottle: 0 }; // what is prepared is a station of its own
const mine = computed(() => session.person?.classes.find((c) => c.class === props.classId));
const teaches = computed(() => mine.value !== undefined && mine.value.role !== 'student');
const writes = computed(() => mine.value?.role === 'instructor' && !mine.value.archived);

// Where the known solution of this practical may be standardised.
const { data: course } = useClassPracticals(() => props.classId, teaches);
const others = computed(() =>
  (course.value?.practicals ?? [])
    .filter((p) => p.practical !== props.practical)
    .map((p) => ({ value: p.practical, text: p.title })),
);

async function load() {
  failed.value = undefined;
  try {
    if (!props.practical) {
      draft.value = copyOf(await fresh());
      begun.value = true;
      loaded = JSON.stringify(draft.value);
      const written = await shared.find();
      if (written) [draft.value, unset.value] = [written, true];
      return await look();
    }
    const planned = await planOf(props.classId, props.practical, group);
    draft.value = editable(planned.practical);
    begun.value = true;
    loaded = JSON.stringify(draft.value);
    sheet.value = planned.plan;
    const written = writes.value && (await shared.find());
    if (written && JSON.stringify(written) !== loaded) [draft.value, unset.value] = [written, true];
    given.value = planned.given;
  } catch (e) {
    failed.value = e instanceof Error ? e : new Error(String(e));
  }
}

/** Back to what is set to the class, or to a blank one. */
function discard() {
  unset.value = false;
  shared.keep(null);
  draft.value = JSON.parse(loaded) as Practical;
}

/** What is wrong, and where in the practical. */
function placed(e: unknown) {
  const text = e instanceof Error ? e.message : String(e);
  return { path: e instanceof Problem ? e.location.replace(/^body\.(practical\.)?/, '') : '', text };
}
function wrong(e: unknown) {
  const { path, text } = placed(e);
  problem.value = text;
  fault.value = path ? { path, text } : undefined;
}

let asked = 0;
async function look() {
  const mine = ++asked;
  try {
    const fresh = await assess(props.classId, { ...draft.value, title: draft.value.title || '–' }, group);
    if (mine !== asked) return; // something was typed since
    sheet.value = fresh;
    problem.value = '';
    fault.value = undefined;
  } catch (e) {
    if (mine === asked) wrong(e);
  }
}
const soon = useDebounceFn(look, 20);
onMounted(async () => {
  await load();
  if (!(history.state as { set?: number } | null)?.set) return;
  await nextTick();
  said.value = 'plan.set';
  history.replaceState({ ...history.state, set: undefined }, '');
});
watch(
  draft,
  () => {
    said.value = '';
    refused.value = undefined;
    if (!teaches.value || !begun.value) return;
    if (loaded && writes.value) shared.keep(JSON.stringify(draft.value) === loaded ? null : draft.value);
    void soon();
  },
  { deep: true },
);

/** What stands in the flask and the burette. */
const standing = (s: Schemas['Setting']) => [s.analyte, s.titrant].filter(Boolean);
const asStudent = shallowRef<Schemas['Planned']>();
const seeAsStudent = () =>
  preview({ ...draft.value, title: draft.value.title || '–' }).then((seen) => (asStudent.value = seen), wrong);

async function keep() {
  try {
    const set = await setToClass(props.classId, draft.value);
    shared.keep(null);
    unset.value = false;
    draft.value = set;
    loaded = JSON.stringify(set);
    // A new one gets an address of its own, and says there that it is set.
    await router.replace({
      name: 'plan',
      params: { classId: props.classId, practical: set.id },
      state: { set: set.revision },
    });
    await nextTick(); // what is shown has changed once more
    said.value = 'plan.set';
    void client.invalidateQueries({ queryKey: keys.stations({ class: props.classId, practical: set.id }) });
  } catch (e) {
    refused.value = placed(e);
  }
}
</script>

<template>
  <Trouble v-if="failed" :error="failed" @again="load" />
  <div v-else class="grid items-start gap-4 print:block" :class="writes && 'lg:grid-cols-[22rem_1fr]'">
    <section
      v-if="writes"
      class="panel no-print p-4 lg:sticky lg:top-2 lg:max-h-[calc(100dvh-1rem)] lg:overflow-y-auto"
    >
      <component :is="practical ? 'h2' : 'h1'" class="mb-3 text-xl font-bold">{{ say('plan.heading') }}</component>
      <p v-if="unset" class="mb-3 rounded-glass bg-well p-2 text-sm" role="status">
        {{ say('plan.unset') }}
        <button type="button" class="link-strong" @click="discard">
          {{ say('plan.discard') }}
        </button>
      </p>
      <PlanForm
        v-if="begun"
        v-model="draft"
        :equation="sheet?.setting.equation ?? ''"
        :changed="sheet?.setting.changed"
        :units="sheet?.askUnits ?? []"
        :fault="fault ?? (refused?.path ? refused : undefined)"
        :marking="sheet?.marking"
        :norms="sheet?.norms"
        :of-plan="sheet?.ofPlan ?? []"
        :lists="sheet?.lists"
        :class-id="classId"
        :others="others"
      />
      <p v-if="problem || refused" class="mt-3 font-semibold text-alarm" role="alert">{{ problem || refused?.text }}</p>
      <p v-if="said" class="mt-3 font-semibold text-agree" role="status">{{ say(said) }}</p>
      <button type="button" class="button mt-2 w-full" data-test="dry" @click="drying = true">
        {{ say('dryRun.title') }}
      </button>
      <DryRunDialog v-if="drying" :class-id="classId" :practical="draft" @close="drying = false" />
      <button type="button" class="button mt-2 w-full" @click="seeAsStudent">{{ say('plan.preview') }}</button>
      <button type="button" class="button-main mt-3 w-full" :disabled="!draft.title" @click="keep">
        {{ say('plan.setToClass') }}
      </button>
    </section>
    <div v-if="sheet" class="grid gap-4">
      <section class="panel no-print p-4">
        <component :is="teaches ? 'h2' : 'h1'" v-if="!writes" class="mb-2 text-2xl font-bold">{{
          draft.title
        }}</component>
        <p v-if="!writes && draft.purpose" class="mb-2">{{ draft.purpose }}</p>
        <p class="text-lg">{{ sheet.setting.equation }}</p>
        <template v-if="!teaches || sheet.setting.madeOnly">
          <p v-for="s in standing(sheet.setting)" :key="s" class="mt-1">{{ s }}</p>
          <p>{{ sheet.setting.glass }}</p>
          <p v-if="teaches" class="mt-2 text-xl font-semibold" data-test="titre">{{ sheet.uncertainty }}</p>
          <RoutePicture v-if="sheet.setting.madeOnly" :route="sheet.setting.route" class="mt-3" />
        </template>
        <div v-else class="mt-2 grid items-start gap-4 md:grid-cols-[9rem_1fr]">
          <PlanBurette
            :capacity="Number(draft.glass.burette.capacity)"
            :titre="sheet.assessment.titre"
            :best="sheet.assessment.range === 'best'"
            :part="sheet.best"
          />
          <div>
            <p
              class="text-xl font-semibold"
              :class="
                sheet.assessment.range === 'best'
                  ? 'text-agree'
                  : ['small', 'large'].includes(sheet.assessment.range)
                    ? 'text-alarm'
                    : ''
              "
              data-test="titre"
            >
              {{ sheet.titre }}
            </p>
            <p>{{ say('plan.ratio', { ratio: sheet.ratio }) }} {{ sheet.uncertainty }}</p>
            <ul class="mt-2 grid gap-1">
              <li v-for="f in sheet.findings" :key="f.code" class="rounded-glass bg-well p-2">{{ f.text }}</li>
            </ul>
            <div v-if="sheet.proposals.length" class="mt-2">
              <h3 class="label">{{ say('plan.better') }}</h3>
              <div class="mt-1 flex flex-wrap gap-2">
                <button
                  v-for="p in sheet.proposals"
                  :key="p.text"
                  type="button"
                  class="button px-3 text-left text-sm"
                  @click="draft = p.practical"
                >
                  {{ p.text }}
                </button>
              </div>
            </div>
            <RoutePicture :route="sheet.setting.route" class="mt-3" />
          </div>
        </div>
      </section>
      <section v-if="sheet.assessment.curve" class="panel no-print grid gap-4 p-4 xl:grid-cols-[3fr_2fr]">
        <CurvePicture
          :curve="sheet.assessment.curve"
          :indicators="sheet.indicators"
          :chosen="draft.chemistry.indicator"
          :unit="sheet.units.volume"
          :rests="sheet.rests"
          :title="draft.title"
        />
        <div>
          <h2 class="label mb-1">{{ say('bench.indicator') }}</h2>
          <IndicatorList
            :indicators="sheet.indicators"
            :chosen="draft.chemistry.indicator"
            :unit="sheet.units.volume"
            @choose="(id) => (draft = { ...draft, chemistry: { ...draft.chemistry, indicator: id } })"
          />
        </div>
      </section>
      <section v-if="!teaches" class="panel no-print p-4">
        <h2 class="label mb-1 text-alarm">{{ say('bench.cautions') }}</h2>
        <ul class="list-disc pl-5">
          <li v-for="c in sheet.setting.cautions" :key="c">{{ c }}</li>
        </ul>
        <p class="font-semibold">{{ say('bench.localRules') }}</p>
      </section>
      <PreLab
        v-if="practical && given && !teaches"
        :plan="sheet"
        :class-id="classId"
        :practical="practical"
        :given="given"
        :instructor="false"
      />
    </div>
    <p v-else class="p-6 text-quiet" role="status">{{ problem || say('common.loading') }}</p>
    <AppDialog v-if="asStudent" :title="asStudent.practical.title" @close="asStudent = undefined">
      <p class="mb-2 text-sm text-quiet">{{ say('plan.previewText') }}</p>
      <p class="text-lg">{{ asStudent.plan.setting.equation }}</p>
      <p>{{ asStudent.practical.purpose }}</p>
      <p v-for="s in standing(asStudent.plan.setting)" :key="s" class="mt-1">{{ s }}</p>
      <p>{{ asStudent.plan.setting.glass }}</p>
      <RoutePicture :route="asStudent.plan.setting.route" class="my-3" />
      <ul class="list-disc pl-5">
        <li v-for="c in asStudent.plan.setting.cautions" :key="c">{{ c }}</li>
      </ul>
      <p class="font-semibold">{{ say('bench.localRules') }}</p>
      <h3 class="label mt-3">{{ say('plan.questions') }}</h3>
      <ol class="list-decimal pl-5">
        <li v-for="q in asStudent.plan.questions" :key="q.code">{{ q.text }}</li>
      </ol>
    </AppDialog>
  </div>
</template>
