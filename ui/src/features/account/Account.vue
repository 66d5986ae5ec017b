<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query';
import { computed, ref, watchEffect } from 'vue';
import type { Schemas } from '@/api/client';
import { useSettings } from '@/device/settings';
import AboutMe from '@/features/account/AboutMe.vue';
import Password from '@/features/account/Password.vue';
import SignIns from '@/features/account/SignIns.vue';
import { useSession } from '@/session/session';
import { say } from '@/words';

const session = useSession();
const me = computed(() => session.person);
const settings = useSettings();

type Choice = Schemas['Preferences'];
const save = useMutation({ mutationFn: session.prefer });

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
  <div class="mx-auto grid w-full max-w-2xl gap-4">
    <div class="sheet">
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
      <fieldset class="mb-5">
        <legend class="label mb-1">{{ say('account.bench') }}</legend>
        <label
          v-for="name in ['keys', 'sound'] as const"
          :key="name"
          class="flex min-h-12 cursor-pointer items-center gap-3 rounded-glass px-3 hover:bg-tint"
        >
          <input v-model="settings[name]" type="checkbox" class="size-5 accent-accent" />
          {{ say(`account.${name}`) }}
        </label>
        <button type="button" class="button mt-1" :disabled="!settings.guided" @click="settings.guided = false">
          {{ say('account.guide') }}
        </button>
      </fieldset>
      <p role="status" class="min-h-6 text-agree">{{ save.isSuccess.value ? say('account.kept') : '' }}</p>
      <p v-if="save.error.value" role="alert" class="text-alarm">{{ save.error.value.message }}</p>
    </div>
    <AboutMe v-if="me && !me.mustChange" />
    <Password :class="me?.mustChange && 'order-first'" />
    <SignIns v-if="me && !me.mustChange" />
  </div>
</template>
