<script setup lang="ts">
// A line of text, with its label. A class is of the whole; what else is said goes to the
// field itself.
import { computed, useAttrs, useId } from 'vue';

defineOptions({ inheritAttrs: false });
defineProps<{ label: string; name?: string; figure?: boolean }>();
const value = defineModel<string>({ required: true });
const id = useId();
const attrs = useAttrs();
const rest = computed(() => ({ ...attrs, class: undefined }));
</script>

<template>
  <div :class="attrs.class">
    <label class="label" :for="name ?? id">{{ label }}</label>
    <input :id="name ?? id" v-model="value" class="field" :class="figure && 'figure'" v-bind="rest" />
  </div>
</template>
