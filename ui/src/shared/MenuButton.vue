<script setup lang="ts" generic="T extends string">
// A few things to choose one from, behind a button.
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue';

defineProps<{ label: string; options: { value: T; text: string }[] }>();
defineEmits<{ choose: [value: T] }>();
</script>

<template>
  <Menu as="div" class="relative inline-block">
    <MenuButton class="tool" :aria-label="label"
      ><slot>{{ label }}</slot></MenuButton
    >
    <MenuItems
      class="absolute z-30 mt-1 w-max max-sm:fixed max-sm:inset-x-4 max-sm:bottom-4 max-sm:w-auto rounded-glass border border-quiet bg-glass py-1 text-left shadow-lg"
    >
      <MenuItem v-for="o in options" :key="o.value" v-slot="{ active }" as="template">
        <button
          type="button"
          class="block w-full px-3 py-1.5 text-left"
          :class="active && 'bg-tint'"
          :data-choice="o.value"
          @click="$emit('choose', o.value)"
        >
          {{ o.text }}
        </button>
      </MenuItem>
    </MenuItems>
  </Menu>
</template>
