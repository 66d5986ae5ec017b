<script setup lang="ts">
// The week before: choose, and see at once what follows. For a student, what is
// to be done, its cautions, and the questions, without what answers them.
import { useDebounceFn } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { Schemas } from '@/api/client';
import { assess, planOf, setToClass } from '@/api/planning';
import { useMe } from '@/api/queries';
import CurvePicture from '@/features/plan/CurvePicture.vue';
import { blank, type Practical } from '@/features/plan/draft';
import IndicatorList from '@/features/plan/IndicatorList.vue';
import PlanBurette from '@/features/plan/PlanBurette.vue';
import PlanForm from '@/features/plan/PlanForm.vue';
import PreLab from '@/features/plan/PreLab.vue';
import PrepSheet from '@/features/plan/PrepSheet.vue';
import PrepTools from '@/features/plan/PrepTools.vue';
import RoutePicture from '@/shared/RoutePicture.vue';
import Trouble from '@/shared/Trouble.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical?: string }>();
const router = useRouter();
const { data: me } = useMe();
const draft = ref<Practical>(blank());
const sheet = shallowRef<Schemas['Plan']>();
const problem = ref('');
const failed = shallowRef<Error>();
const said = ref<'' | 'plan.set'>('');
const group = ref({ students: 12, trials: 4, spare: 20, bottle: 0 });
const instructor = computed(() => me.value?.classes.find((c) => c.class === props.classId)?.role === 'instructor');

async function load() {
  failed.value = undefined;
  try {
    if (!props.practical) return await look();
    const planned = await planOf(props.classId, props.practical, group.value);
    draft.value = planned.practical;
    sheet.value = planned.plan;
  } catch (e) {
    failed.value = e instanceof Error ? e : new Error(String(e));
  }
}

let asked = 0;
async function look() {
  const mine = ++asked;
  try {
    const fresh = await assess({ ...draft.value, title: draft.value.title || '–' }, group.value);
    if (mine !== asked) return; // something was typed since
    sheet.value = fresh;
    problem.value = '';
  } catch (e) {
    if (mine === asked) problem.value = e instanceof Error ? e.message : String(e);
  }
}
const soon = useDebounceFn(look, 20);
onMounted(load);
watch(
  [draft, group],
  () => {
    said.value = '';
    if (instructor.value) void soon();
  },
  { deep: true },
);

async function keep() {
  try {
    const kept = await setToClass(props.classId, draft.value);
    draft.value = kept;
    await router.replace({ name: 'plan', params: { classId: props.classId, practical: kept.id } });
    await nextTick(); // what is shown has changed once more
    said.value = 'plan.set';
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e);
  }
}
</script>

<template>
  <Trouble v-if="failed" :error="failed" @again="load" />
  <div v-else class="grid items-start gap-4 print:block" :class="instructor && 'lg:grid-cols-[22rem_1fr]'">
    <section v-if="instructor" class="panel no-print p-4">
      <h1 class="mb-3 text-xl font-bold">{{ say('plan.heading') }}</h1>
      <PlanForm v-model="draft" />
      <p v-if="problem" class="mt-3 font-semibold text-alarm" role="alert">{{ problem }}</p>
      <p v-if="said" class="mt-3 font-semibold text-agree" role="status">{{ say(said) }}</p>
      <button type="button" class="button-main mt-3 w-full" :disabled="!draft.title" @click="keep">
        {{ say('plan.setToClass') }}
      </button>
    </section>
    <div v-if="sheet" class="grid gap-4">
      <section class="panel no-print p-4">
        <h2 v-if="!instructor" class="mb-2 text-2xl font-bold">{{ draft.title }}</h2>
        <p v-if="!instructor && draft.purpose" class="mb-2">{{ draft.purpose }}</p>
        <p class="text-lg">{{ sheet.setting.equation }}</p>
        <template v-if="!instructor">
          <p v-for="s in [sheet.setting.analyte, sheet.setting.titrant]" :key="s" class="mt-1">{{ s }}</p>
          <p>{{ sheet.setting.glass }}</p>
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
      <section v-if="instructor" class="panel no-print grid gap-3 p-4 sm:grid-cols-4">
        <div v-for="k in ['students', 'trials', 'spare', 'bottle'] as const" :key="k">
          <label class="label" :for="'group-' + k">{{ say(`plan.group.${k}`) }}</label>
          <input :id="'group-' + k" v-model.number="group[k]" class="field figure" type="number" min="0" max="5000" />
        </div>
      </section>
      <PrepTools v-if="instructor" />
      <PrepSheet v-if="instructor && sheet.needs.length" :plan="sheet" :title="draft.title" />
      <section v-if="!instructor" class="panel no-print p-4">
        <h2 class="label mb-1 text-alarm">{{ say('bench.cautions') }}</h2>
        <ul class="list-disc pl-5">
          <li v-for="c in sheet.setting.cautions" :key="c">{{ c }}</li>
        </ul>
        <p class="font-semibold">{{ say('bench.localRules') }}</p>
      </section>
      <PreLab v-if="practical" :plan="sheet" :class-id="classId" :practical="practical" />
    </div>
    <p v-else class="p-6 text-quiet" role="status">{{ problem || say('common.loading') }}</p>
  </div>
</template>
