<script setup lang="ts">
// A group of fields behind one further step; open where something in it is wrong.
import { computed, inject, ref, watch } from 'vue';
import EditField from '@/features/plan/EditField.vue';
import { editing, groups, type Field, type Group } from '@/features/plan/fields';
import { say } from '@/words';

const props = defineProps<{ group: Group; open?: boolean }>();
const { practical, fault } = inject(editing)!;
const open = ref(props.open ?? false);
const fields = computed(() => (groups[props.group] as Field[]).filter((f) => !f.when || f.when(practical.value)));
watch(
  () => fault.value?.path,
  (path) => {
    if (fields.value.some((f) => f.path === path)) open.value = true;
  },
);
</script>

<template>
  <details class="border-t border-hair pt-2" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="label min-h-11">{{ say(`edit.group.${group}`) }}</summary>
    <div class="mt-2 grid grid-cols-2 gap-3">
      <slot name="before" />
      <EditField
        v-for="f in fields"
        :key="f.path"
        :path="f.path"
        :control="f.control"
        :class="f.wide && 'col-span-2'"
      />
      <slot />
    </div>
  </details>
</template>
