<script setup lang="ts">
// The week before: choose, and see at once what follows. For a student, what is
// to be done, its cautions, and the questions, without what answers them.
import { useQueryClient } from '@tanstack/vue-query';
import { useDebounceFn, useEventListener } from '@vueuse/core';
import { computed, nextTick, onMounted, provide, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { Problem, type Schemas } from '@/api/client';
import { assess, planOf, setToClass } from '@/api/planning';
import { keys } from '@/api/keys';
import { useFresh } from '@/api/queries';
import { useClassPracticals } from '@/api/today';
import CurvePicture from '@/features/plan/CurvePicture.vue';
import { alone, copyOf, editable, type Practical } from '@/features/plan/draft';
import { useSharedDraft } from '@/features/plan/kept';
import DryRunDialog from '@/features/plan/DryRunDialog.vue';
import EditField from '@/features/plan/EditField.vue';
import { editing } from '@/features/plan/fields';
import PlanBurette from '@/features/plan/PlanBurette.vue';
import PlanGlass from '@/features/plan/PlanGlass.vue';
import PlanMore from '@/features/plan/PlanMore.vue';
import PlanRoute from '@/features/plan/PlanRoute.vue';
import PlanRules from '@/features/plan/PlanRules.vue';
import PlanSeen from '@/features/plan/PlanSeen.vue';
import PlanSolutions from '@/features/plan/PlanSolutions.vue';
import { preview } from '@/api/settings';
import { useSteps } from '@/features/plan/useSteps';
import AppDialog from '@/shared/AppDialog.vue';
import { useSession } from '@/session/session';
import Waiting from '@/shared/Waiting.vue';
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
  } finally {
    begin();
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

const at = computed(() => fault.value ?? (refused.value?.path ? refused.value : undefined));
provide(editing, { practical: draft, fault: at });
const title = computed({ get: () => draft.value.title, set: (title) => (draft.value = { ...draft.value, title }) });
const onlySolution = computed(() => alone(draft.value));

// What was changed can be taken back, a step each.
const vessels = () => [draft.value.route, draft.value.chemistry?.titrant.made].map((r) => r?.map((s) => s.kind));
const { undo, canUndo, begin } = useSteps(draft, vessels);
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (!(e.ctrlKey || e.metaKey) || e.shiftKey || e.key !== 'z' || !canUndo.value) return;
  if ((e.target as HTMLElement).matches('input, textarea')) return; // a field takes back its own letters
  e.preventDefault();
  undo();
});

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
  <PlanSeen
    v-else-if="!writes && sheet"
    :class-id="classId"
    :practical="practical"
    :draft="draft"
    :sheet="sheet"
    :given="given"
    :teaches="teaches"
  />
  <form v-else-if="writes && begun" class="desk" @submit.prevent>
    <header class="mb-3 flex flex-wrap items-end gap-x-4 gap-y-2">
      <div class="min-w-64 grow">
        <component :is="practical ? 'h2' : 'h1'" class="sr-only">{{ say('plan.heading') }}</component>
        <label class="label" for="plan-title">{{ say('plan.title') }}</label>
        <input
          id="plan-title"
          v-model="title"
          class="line-field w-full text-lg font-bold"
          maxlength="120"
          :placeholder="say('plan.titleHint')"
        />
      </div>
      <div class="flex flex-wrap items-center gap-2">
        <button type="button" class="tool" :disabled="!canUndo" data-test="undo" @click="undo">
          {{ say('plan.undo') }}
        </button>
        <button type="button" class="tool" @click="seeAsStudent">{{ say('plan.preview') }}</button>
        <button type="button" class="tool" data-test="dry" @click="drying = true">{{ say('dryRun.title') }}</button>
        <button type="button" class="button-main" :disabled="!draft.title" @click="keep">
          {{ say('plan.setToClass') }}
        </button>
      </div>
      <p v-if="unset" class="w-full text-sm" role="status">
        {{ say('plan.unset') }}
        <button type="button" class="tool" @click="discard">{{ say('plan.discard') }}</button>
      </p>
      <p v-if="problem || refused" class="w-full font-semibold text-alarm" role="alert">
        {{ problem || refused?.text }}
      </p>
      <p v-if="said" class="w-full font-semibold text-agree" role="status">{{ say(said) }}</p>
    </header>
    <div class="grid items-start gap-x-8 gap-y-4" :class="!onlySolution && 'lg:grid-cols-[minmax(0,1fr)_12rem]'">
      <div class="grid min-w-0 gap-4">
        <PlanRoute
          :path="onlySolution ? 'chemistry.titrant.made' : 'route'"
          :class-id="classId"
          :vessels="problem ? undefined : onlySolution ? sheet?.setting.makes : sheet?.setting.route"
          class="sheet"
        />
        <div class="sheet grid items-start gap-x-8 gap-y-4 md:grid-cols-2 xl:grid-cols-3">
          <PlanSolutions
            :equation="problem ? draft.chemistry.equation : (sheet?.setting.equation ?? '')"
            :ratio="problem ? '' : (sheet?.ratio ?? '')"
            :changed="sheet?.setting.changed"
            :units="sheet?.askUnits ?? []"
            :others="others"
            :class-id="classId"
          />
          <PlanGlass v-if="!onlySolution" :class-id="classId" :sheet="sheet" :stale="problem !== ''" />
          <PlanRules :units="sheet?.askUnits ?? []" :norms="sheet?.norms" />
        </div>
        <div
          v-if="sheet"
          class="sheet grid items-start gap-x-8 gap-y-4"
          :class="sheet.assessment.curve && 'xl:grid-cols-2'"
        >
          <CurvePicture
            v-if="sheet.assessment.curve && !problem"
            :curve="sheet.assessment.curve"
            :indicators="sheet.indicators"
            :chosen="draft.chemistry.indicator"
            :unit="sheet.units.volume"
            :rests="sheet.rests"
            :title="draft.title"
          />
          <section class="grid content-start gap-2">
            <h2 class="font-bold">{{ say('plan.columns.comes') }}</h2>
            <p v-if="problem" class="text-quiet">{{ say('plan.notKnown') }}</p>
            <p v-else>{{ sheet.uncertainty }}</p>
            <ul v-if="!problem && sheet.findings.length" class="grid gap-1">
              <li v-for="f in sheet.findings" :key="f.code" class="border-l-4 border-hair pl-2">{{ f.text }}</li>
            </ul>
            <div v-if="!problem && sheet.proposals.length">
              <h3 class="label">{{ say('plan.better') }}</h3>
              <button
                v-for="p in sheet.proposals"
                :key="p.text"
                type="button"
                class="tool -ml-1.5 text-left"
                @click="draft = p.practical"
              >
                {{ p.text }}
              </button>
            </div>
          </section>
        </div>
      </div>
      <!-- Beside everything, and it follows each key. -->
      <aside
        v-if="sheet && !onlySolution"
        class="max-lg:order-first max-lg:grid max-lg:grid-cols-[auto_1fr] max-lg:items-center max-lg:gap-x-3 lg:sticky lg:top-2 lg:border-l lg:border-hair lg:pl-4"
      >
        <PlanBurette
          class="max-lg:h-24"
          :capacity="Number(draft.glass.burette.capacity)"
          :titre="problem ? 0 : sheet.assessment.titre"
          :best="sheet.assessment.range === 'best'"
          :part="sheet.best"
        />
        <p v-if="problem" class="mt-2 text-quiet">{{ say('plan.notKnown') }}</p>
        <p
          v-else
          class="mt-2 font-semibold"
          :class="
            sheet.assessment.range === 'best'
              ? 'text-agree'
              : ['small', 'large'].includes(sheet.assessment.range) && 'text-alarm'
          "
          data-test="titre"
        >
          {{ sheet.titre }}
        </p>
      </aside>
    </div>
    <section class="mt-4 grid gap-3">
      <EditField path="purpose" control="area" class="sheet" />
      <PlanMore :class-id="classId" :sheet="sheet" :others="others" />
    </section>
    <DryRunDialog v-if="drying" :class-id="classId" :practical="draft" @close="drying = false" />
    <AppDialog v-if="asStudent" :title="asStudent.practical.title" @close="asStudent = undefined">
      <p class="mb-2 text-sm text-quiet">{{ say('plan.previewText') }}</p>
      <PlanSeen :draft="asStudent.practical" :sheet="asStudent.plan" :teaches="false" within />
      <h3 class="label mt-3">{{ say('plan.questions') }}</h3>
      <ol class="list-decimal pl-5">
        <li v-for="q in asStudent.plan.questions" :key="q.code">{{ q.text }}</li>
      </ol>
    </AppDialog>
  </form>
  <Waiting v-else />
</template>
