<script setup lang="ts" generic="T extends string">
// A choice from a long list, by typing a part of it: of its text, or of what else it is known by.
import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue';
import { ChevronUpDownIcon } from '@heroicons/vue/24/outline';
import { computed, ref, useId } from 'vue';
import { say } from '@/words';

const props = defineProps<{
  label: string;
  /** Also is what one is found by as well, and is not shown. */
  options: { value: T; text: string; group?: string; more?: string; also?: string }[];
  name?: string;
  /** What stands there where none of them is chosen. */
  none?: string;
  hint?: string;
}>();
const value = defineModel<T>();
const id = useId();
const query = ref('');

const plain = (text: string) => text.toLowerCase().normalize('NFKD').replace(/\p{M}/gu, '');
const found = computed(() => {
  const words = plain(query.value).split(/\s+/).filter(Boolean);
  return props.options.filter((o) => {
    const text = plain([o.text, o.more, o.also, o.group].join(' '));
    return words.every((w) => text.includes(w));
  });
});
const shown = (v: unknown) => props.options.find((o) => o.value === v)?.text ?? props.none ?? '';
const begins = (i: number) => found.value[i]!.group && found.value[i]!.group !== found.value[i - 1]?.group;
</script>

<template>
  <Combobox v-slot="{ open }" v-model="value" as="div" class="relative">
    <label class="label" :for="name ?? id">{{ label }}</label>
    <div class="relative">
      <ComboboxInput
        :id="name ?? id"
        class="field pr-8"
        autocomplete="off"
        maxlength="120"
        :placeholder="hint"
        :display-value="shown"
        @change="query = ($event.target as HTMLInputElement).value"
        @focus="($event.target as HTMLInputElement).select()"
      />
      <ComboboxButton class="absolute inset-y-0 right-0 grid w-8 place-items-center" :aria-label="say('pick.open')">
        <ChevronUpDownIcon class="size-5 text-quiet" />
      </ComboboxButton>
    </div>
    <ComboboxOptions
      v-if="open"
      static
      class="absolute z-30 mt-1 max-h-80 w-full min-w-64 overflow-y-auto rounded-glass border border-quiet bg-glass py-1 shadow-lg"
    >
      <li v-if="!found.length" role="option" aria-disabled="true" class="px-3 py-2 text-sm text-quiet">
        {{ say('pick.none') }}
      </li>
      <template v-for="(o, i) in found" :key="o.value">
        <li v-if="begins(i)" class="label px-3 pt-2" role="presentation">{{ o.group }}</li>
        <ComboboxOption v-slot="{ active, selected }" :value="o.value" as="template">
          <li class="cursor-pointer px-3 py-1.5" :class="[active && 'bg-tint', selected && 'font-semibold']">
            {{ o.text }}<span v-if="o.more" class="block text-sm font-normal text-quiet">{{ o.more }}</span>
          </li>
        </ComboboxOption>
      </template>
    </ComboboxOptions>
  </Combobox>
</template>
