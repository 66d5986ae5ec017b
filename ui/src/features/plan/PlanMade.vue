<script setup lang="ts">
// How students make the titrant, where it is not given to them ready made.
import { computed, ref, watch } from 'vue';
import { useParts } from '@/features/plan/parts';
import PlanRoute from '@/features/plan/PlanRoute.vue';
import { say } from '@/words';

defineProps<{ classId: string }>();
const { practical, fault } = useParts();
const made = computed(() => practical.value.chemistry.titrant.made ?? []);
const open = ref(made.value.length > 0);
watch(
  () => fault.value?.path,
  (path) => path?.startsWith('chemistry.titrant.made') && (open.value = true),
);
</script>

<template>
  <details class="border-t border-hair pt-2" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="label min-h-11">
      {{ say('edit.group.made') }}
      <span v-if="!open" class="font-normal">{{ say('edit.madeNow', {}, made.length) }}</span>
    </summary>
    <p class="text-sm text-quiet">{{ say('edit.made') }}</p>
    <PlanRoute path="chemistry.titrant.made" :class-id="classId" />
  </details>
</template>
