<script setup lang="ts">
// A class: who is in it and where, how others come in, what everyone is told, and who
// changed what.
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useClassPage, useSlips, type Member, type Slip } from '@/api/classes';
import { useClassPracticals } from '@/api/today';
import { useClassChange } from '@/features/classes/changes';
import ActLog from '@/features/classes/ActLog.vue';
import AddPeopleDialog from '@/features/classes/AddPeopleDialog.vue';
import CodeDialog from '@/features/classes/CodeDialog.vue';
import MemberDialog from '@/features/classes/MemberDialog.vue';
import CourseTable from '@/features/home/CourseTable.vue';
import FirstSteps from '@/features/home/FirstSteps.vue';
import Notices from '@/features/classes/Notices.vue';
import GlassPanel from '@/features/plan/GlassPanel.vue';
import NormsPanel from '@/features/plan/NormsPanel.vue';
import RenameDialog from '@/features/classes/RenameDialog.vue';
import Slips from '@/features/classes/Slips.vue';
import Trouble from '@/shared/Trouble.vue';
import { whenIs } from '@/shared/when';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string }>();
const { data: page, error, refetch } = useClassPage(() => props.classId);
const change = useClassChange(() => props.classId);
const { renew } = useSlips(() => props.classId);

const route = useRoute();
const router = useRouter();
const parts = ['practicals', 'people', 'marks', 'log'] as const;
type Part = (typeof parts)[number];
const part = computed<Part>(
  () => parts.find((p) => p === route.query.show) ?? (route.query.add ? 'people' : 'practicals'),
);
const { data: course } = useClassPracticals(() => props.classId);
const open = ref<'' | 'add' | 'code' | 'rename'>('');
// A link may lead to a dialog itself; it is of the address no longer once it is open.
watch(
  () => route.query.add,
  async (add) => {
    if (add !== 'people' && add !== 'code') return;
    await router.replace({ query: { show: 'people' } });
    open.value = add === 'code' ? 'code' : 'add';
  },
  { immediate: true },
);
const close = () => (open.value = '');
const member = ref<Member>();
const slips = ref<Slip[]>([]);
const chosen = ref<string[]>([]);

const groups = computed(() =>
  (['student', 'assistant', 'instructor'] as const)
    .map((role) => ({ role, people: page.value?.people.filter((m) => m.role === role) ?? [] }))
    .filter((g) => g.people.length),
);
const partner = (m: Member) => page.value?.people.find((o) => o.id === m.partner)?.name;
const when = (at?: string) => (at ? whenIs(at) : say('class.never'));

function archive() {
  const now = page.value!;
  change.mutate((a) => a.set({ name: now.name, term: now.term, archived: !now.archived }));
}

function handed(made: Slip[]) {
  slips.value = made;
  close();
}

async function passwords() {
  const made = await renew.mutateAsync(chosen.value).catch(() => undefined);
  if (!made) return;
  slips.value = made;
  chosen.value = [];
}
</script>

<template>
  <Trouble v-if="error && !page" :error="error" @again="refetch()" />
  <Slips v-else-if="page && slips.length" :class-name="page.name" :slips="slips" @done="slips = []" />
  <div v-else-if="page" class="grid gap-5">
    <div>
      <p>
        <RouterLink :to="{ name: 'classes' }" class="link">{{ say('classes.title') }}</RouterLink>
      </p>
      <h1 class="text-2xl font-bold">{{ page.name }}</h1>
      <p class="text-quiet">
        {{ [page.term, say('classes.students', {}, page.students ?? 0)].filter(Boolean).join(' · ') }}
      </p>
      <p v-if="page.archived" class="font-semibold text-rough" role="status">{{ say('class.archivedNote') }}</p>
      <nav class="mt-2 flex flex-wrap gap-1 border-b border-hair" :aria-label="page.name">
        <RouterLink
          v-for="p in parts"
          :key="p"
          :to="p === 'marks' ? { name: 'term', params: { classId } } : { query: { show: p } }"
          class="tab"
          :aria-current="p === part ? 'page' : undefined"
          >{{ say(`class.${p}`) }}</RouterLink
        >
      </nav>
    </div>
    <p v-if="change.error.value" role="alert" class="font-semibold text-alarm">{{ change.error.value.message }}</p>

    <section v-if="part === 'practicals'" data-test="class-practicals">
      <template v-if="course">
        <FirstSteps v-if="!page.archived && (!course.practicals.length || !course.students)" :of="course" />
        <CourseTable :of="course" />
        <RouterLink
          v-if="page.mayManage && course.practicals.length && !page.archived"
          class="button mt-3"
          :to="{ name: 'library', params: { classId } }"
          >{{ say('shelf.newPlan') }}</RouterLink
        >
      </template>
      <Waiting v-else />
    </section>

    <template v-if="part === 'people'">
      <div v-if="page.mayManage" class="flex flex-wrap gap-2">
        <button type="button" class="button-main" @click="open = 'add'">{{ say('class.add') }}</button>
        <button type="button" class="button" @click="open = 'code'">{{ say('class.code') }}</button>
      </div>
      <p v-if="!page.students" class="text-lg">{{ say('class.nobody') }}</p>
      <section v-for="g in groups" :key="g.role" class="sheet overflow-x-auto">
        <div class="mb-2 flex flex-wrap items-center justify-between gap-2">
          <h2 class="text-lg font-bold">{{ say(`role.${g.role}s`) }}</h2>
          <div v-if="g.role === 'student' && page.mayManage" class="flex flex-wrap items-center gap-2">
            <p v-if="renew.error.value" role="alert" class="text-alarm">{{ renew.error.value.message }}</p>
            <button type="button" class="button" :disabled="!chosen.length || renew.isPending.value" @click="passwords">
              {{ say('class.newPasswords', {}, chosen.length) }}
            </button>
          </div>
        </div>
        <table class="w-full text-left">
          <thead class="text-sm text-quiet">
            <tr>
              <th v-if="g.role === 'student' && page.mayManage" class="w-8">
                <span class="sr-only">{{ say('class.choose') }}</span>
              </th>
              <th class="py-1 pr-3 font-semibold">{{ say('person.name') }}</th>
              <th class="py-1 pr-3 font-semibold max-sm:hidden">{{ say('person.username') }}</th>
              <template v-if="g.role === 'student'">
                <th class="py-1 pr-3 font-semibold">{{ say('class.bench') }}</th>
                <th class="py-1 pr-3 font-semibold max-sm:hidden">{{ say('class.burette') }}</th>
                <th class="py-1 pr-3 font-semibold">{{ say('class.sample') }}</th>
                <th class="py-1 pr-3 font-semibold max-md:hidden">{{ say('class.partner') }}</th>
              </template>
              <th class="py-1 pr-3 font-semibold max-md:hidden">{{ say('class.seen') }}</th>
              <th v-if="page.mayManage">
                <span class="sr-only">{{ say('class.change') }}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="m in g.people" :key="m.id" class="border-t border-hair">
              <td v-if="g.role === 'student' && page.mayManage">
                <label class="grid size-11 place-items-center">
                  <input v-model="chosen" type="checkbox" class="size-5 accent-accent" :value="m.id" />
                  <span class="sr-only">{{ m.name }}</span>
                </label>
              </td>
              <td class="py-1 pr-3 font-semibold">
                {{ m.name }}
                <span v-if="m.once" class="text-sm font-normal text-rough">{{ say('class.once') }}</span>
              </td>
              <td class="py-1 pr-3 max-sm:hidden">{{ m.username }}</td>
              <template v-if="g.role === 'student'">
                <td class="figure py-1 pr-3">{{ m.bench }}</td>
                <td class="figure py-1 pr-3 max-sm:hidden">{{ m.burette }}</td>
                <td class="figure py-1 pr-3">{{ m.sample }}</td>
                <td class="py-1 pr-3 max-md:hidden">{{ partner(m) }}</td>
              </template>
              <td class="py-1 pr-3 text-sm text-quiet max-md:hidden">{{ when(m.seen) }}</td>
              <td v-if="page.mayManage" class="text-right">
                <button type="button" class="link-strong" @click="member = m">
                  {{ say('class.change') }}<span class="sr-only"> {{ m.name }}</span>
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </section>
    </template>
    <template v-if="part === 'practicals'">
      <Notices :page="page" class="no-print" />
      <NormsPanel v-if="page.mayManage" :class-id="classId" class="no-print" />
      <GlassPanel v-if="page.mayManage" :class-id="classId" class="no-print" />
    </template>
    <template v-if="part === 'log'">
      <div v-if="page.mayManage || page.mayReopen" class="flex flex-wrap gap-2">
        <button v-if="page.mayManage" type="button" class="button" @click="open = 'rename'">
          {{ say('class.rename') }}
        </button>
        <button type="button" class="button" @click="archive">
          {{ say(page.archived ? 'class.reopen' : 'class.archive') }}
        </button>
      </div>
      <ActLog v-if="page.mayManage || page.mayReopen" :class-id="classId" :title="say('class.log')" />
    </template>

    <AddPeopleDialog v-if="open === 'add'" :class-id="classId" @close="close" @slips="handed" />
    <CodeDialog v-else-if="open === 'code'" :page="page" @close="close" />
    <RenameDialog v-else-if="open === 'rename'" :page="page" @close="open = ''" />
    <MemberDialog v-if="member" :page="page" :member="member" @close="member = undefined" />
  </div>
  <Waiting v-else />
</template>
