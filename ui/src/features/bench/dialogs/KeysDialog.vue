<script setup lang="ts">
import { useSettings } from '@/device/settings';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const emit = defineEmits<{ close: [] }>();
const settings = useSettings();
const keys = [
  ['Enter', 'enter'],
  ['+', 'plus'],
  ['*', 'star'],
  ['/', 'slash'],
  ['-', 'minus'],
  ['f', 'refill'],
  ['s', 'again'],
  ['n', 'note'],
  ['w', 'weigh'],
  ['l', 'leak'],
  ['c', 'cautions'],
  ['?', 'question'],
] as const;
</script>

<template>
  <AppDialog :title="say('keys.title')" @close="emit('close')">
    <dl class="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
      <template v-for="[key, name] in keys" :key="key">
        <dt>
          <kbd class="figure rounded border border-quiet px-2">{{ key }}</kbd>
        </dt>
        <dd>{{ say(`keys.${name}`) }}</dd>
      </template>
    </dl>
    <p class="mt-3 text-sm text-quiet">{{ say('keys.when') }}</p>
    <label v-for="name in ['keys', 'sound'] as const" :key="name" class="mt-1 flex min-h-11 items-center gap-3">
      <input v-model="settings[name]" type="checkbox" class="size-5 accent-accent" />
      {{ say(`account.${name}`) }}
    </label>
  </AppDialog>
</template>
