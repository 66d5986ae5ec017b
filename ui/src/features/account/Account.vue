<script setup lang="ts">
import { computed, ref, watchEffect } from 'vue';
import { useMe, usePreferences } from '@/api/queries';
import { say } from '@/words';

const { data: me } = useMe();
const save = usePreferences();

type Choice = Parameters<typeof save.mutate>[0];

// What was chosen last, kept here so that two quick choices do not undo each other.
const chosen = ref<Choice>();
watchEffect(() => {
  if (me.value && !chosen.value) {
    chosen.value = { ...me.value.preferences };
  }
});

const groups = computed(() => [
  {
    name: 'words' as const,
    now: chosen.value?.words ?? '',
    options: [
      ['', say('account.wordsAuto')],
      ['titre', say('account.wordsTitre')],
      ['titer', say('account.wordsTiter')],
    ],
  },
  {
    name: 'units' as const,
    now: chosen.value?.units ?? '',
    options: [
      ['', say('account.unitsAuto')],
      ['mL', say('account.unitsML')],
      ['cm3', say('account.unitsCM3')],
    ],
  },
  {
    name: 'theme' as const,
    now: chosen.value?.theme ?? 'system',
    options: (['system', 'light', 'dark'] as const).map((v) => [v, say(`account.themes.${v}`)]),
  },
]);

function choose(name: keyof Choice, value: string) {
  if (!chosen.value) return;
  chosen.value = { ...chosen.value, [name]: value } as Choice;
  save.mutate(chosen.value);
}
</script>

<template>
  <div class="panel mx-auto max-w-2xl p-6">
    <h1 class="mb-4 text-2xl font-bold">{{ say('account.title') }}</h1>
    <fieldset v-for="g in groups" :key="g.name" class="mb-5">
      <legend class="label mb-1">{{ say(`account.${g.name}`) }}</legend>
      <label
        v-for="[value, label] in g.options"
        :key="value"
        class="flex min-h-12 cursor-pointer items-center gap-3 rounded-glass px-3 hover:bg-tint"
      >
        <input
          type="radio"
          class="size-5 accent-accent"
          :name="g.name"
          :value="value"
          :checked="g.now === value"
          @change="choose(g.name, value!)"
        />
        {{ label }}
      </label>
    </fieldset>
    <p role="status" class="min-h-6 text-agree">{{ save.isSuccess.value ? say('account.kept') : '' }}</p>
    <p v-if="save.error.value" role="alert" class="text-alarm">{{ save.error.value.message }}</p>
  </div>
</template>
