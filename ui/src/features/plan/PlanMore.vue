<script setup lang="ts">
// What else a practical says: each behind its heading, which tells what stands there now.
import { computed } from 'vue';
import type { Schemas } from '@/api/client';
import SchemeEditor from '@/features/marking/SchemeEditor.vue';
import { alone } from '@/features/plan/draft';
import EditField from '@/features/plan/EditField.vue';
import EditGroup from '@/features/plan/EditGroup.vue';
import EditLists from '@/features/plan/EditLists.vue';
import EditQuestions from '@/features/plan/EditQuestions.vue';
import { withAt } from '@/features/plan/fields';
import { useParts } from '@/features/plan/parts';
import PlanOwn from '@/features/plan/PlanOwn.vue';
import { say } from '@/words';

const props = defineProps<{
  classId: string;
  sheet?: Schemas['Plan'];
  others: { value: string; text: string }[];
}>();
const { practical, fault } = useParts();
const scheme = computed({
  get: () => practical.value.marking ?? {},
  set: (now) => (practical.value = withAt(practical.value, 'marking', now.criteria ? now : undefined)),
});
// The one that comes before may not be set to this class any more.
const befores = computed(() => {
  const now = practical.value.after;
  const gone =
    now && !props.others.some((o) => o.value === now) ? [{ value: now, text: say('plan.standardGone') }] : [];
  return [{ value: '', text: say('plan.afterNone') }, ...props.others, ...gone];
});
const now = computed(() => ({
  lists: say('edit.listsNow', {}, (props.sheet?.lists?.setup.length ?? 0) + (props.sheet?.lists?.cleanup.length ?? 0)),
  exercise: say('edit.exerciseNow', {}, props.sheet?.questions.length ?? 0),
  marking: say(scheme.value.criteria ? 'edit.markingNow' : 'edit.usual', {}, scheme.value.criteria?.length ?? 0),
  sequence: befores.value.find((b) => b.value === (practical.value.after ?? ''))?.text ?? '',
}));
</script>

<template>
  <div class="grid items-start gap-x-8 gap-y-2 md:grid-cols-2 xl:grid-cols-3">
    <EditGroup group="exercise" :now="now.exercise"><EditQuestions :of-plan="sheet?.ofPlan ?? []" /></EditGroup>
    <EditGroup group="marking" :now="now.marking">
      <SchemeEditor v-if="sheet?.marking" v-model="scheme" class="col-span-2" :parts="sheet.marking" :fault="fault" />
    </EditGroup>
    <EditGroup group="lists" :now="now.lists">
      <EditLists v-if="sheet?.lists" :lists="sheet.lists" :class-id="classId" :others="others" />
    </EditGroup>
    <EditGroup group="sequence" :now="now.sequence">
      <template #before>
        <EditField path="after" control="text" class="col-span-2" :options="befores" />
      </template>
    </EditGroup>
    <EditGroup group="writing" />
    <PlanOwn v-if="!alone(practical)" v-model="practical" />
  </div>
</template>
