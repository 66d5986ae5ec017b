<script setup lang="ts">
// For whoever makes the solutions: quantities, order of work, recipes, labels, and the calculators.
import { computed, ref, watch } from 'vue';
import { useQuery } from '@tanstack/vue-query';
import { planOf } from '@/api/planning';
import { settingsOf } from '@/api/settings';
import { keys } from '@/api/keys';
import PreLab from '@/features/plan/PreLab.vue';
import PrepSheet from '@/features/plan/PrepSheet.vue';
import PrepTools from '@/features/plan/PrepTools.vue';
import { useSession } from '@/session/session';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string }>();
const session = useSession();
const mine = computed(() => session.person?.classes.find((c) => c.class === props.classId));
const teaches = computed(() => mine.value !== undefined && mine.value.role !== 'student');
const where = computed(() => ({ class: props.classId, practical: props.practical }));
const group = ref({ students: 12, trials: 4, spare: 20, bottle: 0 });
const {
  data: planned,
  error,
  refetch,
} = useQuery({
  queryKey: computed(() => [...keys.stations(where.value), 'prepare', group.value]),
  queryFn: () => planOf(props.classId, props.practical, group.value),
  placeholderData: (before) => before,
});
// The codes of the unknowns go on their bottles, and as many benches are made for as there are students.
const { data: set } = useQuery({
  queryKey: computed(() => [...keys.stations(where.value), 'settings']),
  queryFn: () => settingsOf(where.value),
  enabled: teaches,
});
const known = ref(false);
watch(
  () => set.value?.seats.length,
  (students) => {
    if (students === undefined || known.value) return;
    known.value = true; // what is typed from then on stays
    if (students > 0) group.value = { ...group.value, students };
  },
  { immediate: true },
);
const codes = computed(() => set.value?.unknowns.map((u) => u.code) ?? []);
</script>

<template>
  <Trouble v-if="error && !planned" :error="error" @again="refetch()" />
  <div v-else-if="planned" class="grid gap-5">
    <h2 class="sr-only">{{ say('title.prepare') }}</h2>
    <div class="no-print grid gap-3 sm:grid-cols-4">
      <div v-for="k in ['students', 'trials', 'spare', 'bottle'] as const" :key="k">
        <label class="label" :for="'group-' + k">{{
          say(`plan.group.${k}`, { unit: session.person?.units.volume })
        }}</label>
        <input :id="'group-' + k" v-model.number="group[k]" class="field figure" type="number" min="0" max="5000" />
      </div>
    </div>
    <p v-if="error" class="font-semibold text-alarm" role="alert">{{ error.message }}</p>
    <PrepSheet
      v-if="planned.plan.needs.length"
      :plan="planned.plan"
      :title="planned.practical.title"
      :class-name="mine?.name"
      :codes="codes"
    />
    <p v-else class="sheet text-quiet">{{ say('prepare.none') }}</p>
    <PrepTools />
    <PreLab
      v-if="planned.given"
      :plan="planned.plan"
      :class-id="classId"
      :practical="practical"
      :given="planned.given"
      :instructor="teaches"
    />
  </div>
  <Waiting v-else />
</template>
