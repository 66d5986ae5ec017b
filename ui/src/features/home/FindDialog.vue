<script setup lang="ts">
// The finder: a class, a practical, a person, an entry of the catalogue, by a few letters.
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue';
import { refDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useRouter, type RouteLocationRaw } from 'vue-router';
import type { Schemas } from '@/api/client';
import { useFind } from '@/api/today';
import AppDialog from '@/shared/AppDialog.vue';
import { beginAt } from '@/shared/focus';
import { say } from '@/words';

const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const text = ref('');
const { data, error } = useFind(refDebounced(text, 120));
const hits = computed(() => (text.value.trim() ? (data.value ?? []) : []));
const input = ref<{ el: HTMLInputElement }>();
beginAt(() => input.value?.el);

type Hit = Schemas['Hit'];
function to(h: Hit): RouteLocationRaw {
  if (h.notebook) return { name: 'bench', params: { id: h.notebook } };
  if (h.kind === 'practical') return { name: 'plan', params: { classId: h.class!, practical: h.practical! } };
  if (h.kind === 'class') return { name: 'class', params: { classId: h.class! } };
  if (h.kind === 'person') return { name: 'class', params: { classId: h.class! }, query: { show: 'people' } };
  return { name: 'catalogue', query: { find: h.title } };
}
async function go(h: Hit | null) {
  if (!h) return;
  await router.push(to(h)); // before it closes: else the browser would go back from there
  emit('close');
}
</script>

<template>
  <AppDialog :title="say('find.title')" @close="emit('close')">
    <Combobox :model-value="null" @update:model-value="go">
      <ComboboxInput
        ref="input"
        class="field"
        :aria-label="say('find.label')"
        :placeholder="say('find.label')"
        autocomplete="off"
        maxlength="80"
        @change="text = ($event.target as HTMLInputElement).value"
      />
      <p v-if="error" role="alert" class="pt-2 text-alarm">{{ error.message }}</p>
      <p v-else-if="text.trim() && data && !hits.length" class="pt-2 text-quiet" role="status">
        {{ say('find.none') }}
      </p>
      <ComboboxOptions static class="pt-2" data-test="hits">
        <ComboboxOption
          v-for="h in hits"
          :key="h.kind + h.title + (h.class ?? '') + (h.practical ?? '')"
          v-slot="{ active }"
          :value="h"
          as="template"
        >
          <li
            class="row grid min-h-10 cursor-pointer grid-cols-[6rem_minmax(0,1fr)] items-center gap-2 px-2"
            :class="active && 'bg-tint'"
          >
            <span class="text-sm text-quiet">{{ say(`find.${h.kind}`) }}</span>
            <span class="leading-tight wrap-anywhere"
              ><span class="font-semibold">{{ h.title }}</span>
              <span v-if="h.of" class="text-sm text-quiet">{{ h.of }}</span></span
            >
          </li>
        </ComboboxOption>
      </ComboboxOptions>
    </Combobox>
  </AppDialog>
</template>
