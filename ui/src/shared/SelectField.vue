<script setup lang="ts" generic="T extends string | number">
// A choice from a list, with its label.
import { useId } from 'vue';

defineProps<{ label: string; options: { value: T; text: string }[]; figure?: boolean; name?: string }>();
const value = defineModel<T>();
const id = useId();
</script>

<template>
  <div>
    <label class="label" :for="name ?? id">{{ label }}</label>
    <select :id="name ?? id" v-model="value" class="field" :class="figure && 'figure'">
      <option v-for="o in options" :key="o.value" :value="o.value">{{ o.text }}</option>
    </select>
  </div>
</template>
