<script setup lang="ts" generic="T extends string">
// A few buttons of which one is pressed.
defineProps<{ options: { value: T; text: string }[]; label: string; now?: T; wide?: boolean }>();
defineEmits<{ choose: [value: T] }>();
</script>

<template>
  <div :class="wide ? 'grid grow grid-cols-3 gap-2' : 'flex flex-wrap gap-1.5'" role="group" :aria-label="label">
    <button
      v-for="o in options"
      :key="o.value"
      type="button"
      class="button px-3"
      :class="now === o.value && 'chosen'"
      :aria-pressed="now === o.value"
      @click="$emit('choose', o.value)"
    >
      <slot :option="o">{{ o.text }}</slot>
    </button>
  </div>
</template>
