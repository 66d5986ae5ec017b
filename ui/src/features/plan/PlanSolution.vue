<script setup lang="ts">
// A solution that is only made: what it is, and what is asked of it.
import { computed, inject } from 'vue';
import EditField from '@/features/plan/EditField.vue';
import { editing } from '@/features/plan/fields';
import SelectField from '@/shared/SelectField.vue';
import { say, type Key } from '@/words';

const props = defineProps<{
  /** In which the answer may be asked for; the first is the usual one. */ units: { unit: string; text: string }[];
}>();
const { practical } = inject(editing)!;
const answers = ['', 'mass-concentration'].map((value) => ({
  value,
  text: say(`edit.asked.what.${value || 'concentration'}` as Key),
}));
const asked = computed({
  get: () => practical.value.asked?.what ?? '',
  // A unit belongs to what is asked for.
  set: (what) =>
    (practical.value = { ...practical.value, asked: what ? { what: what as 'mass-concentration' } : undefined }),
});
const units = computed(() => props.units.map((u, i) => ({ value: i ? u.unit : '', text: u.text })));
</script>

<template>
  <div class="grid grid-cols-2 gap-3">
    <EditField path="chemistry.titrant.name" as="solution.name" control="text" />
    <EditField path="chemistry.titrant.formula" control="text" />
    <EditField path="chemistry.titrant.concentration" as="solution.aim" control="decimal" />
    <EditField path="chemistry.titrant.purity" as="solution.purity" control="decimal" />
    <SelectField v-model="asked" name="solution-asked" :label="say('edit.asked.what')" :options="answers" />
    <EditField v-if="units.length > 1" path="asked.unit" control="text" :options="units" />
    <EditField path="rules.figures" control="whole" />
    <EditField path="asked.reference" control="decimal" />
  </div>
</template>
