<script lang="ts">
/** A sample as it is typed. */
export type Unknown = { code: string; value: string };
</script>

<script setup lang="ts">
// The samples with their true values, and how they are given out.
import { ref } from 'vue';
import type { Settings } from '@/api/settings';
import TextField from '@/shared/TextField.vue';
import { say } from '@/words';

defineProps<{ now: Settings; codes: string[] }>();
const unknowns = defineModel<Unknown[]>('unknowns', { required: true });
const emit = defineEmits<{ gone: [code: string]; deal: [how: 'in-turn' | 'at-random', seed: number] }>();
const seed = ref(1);
const next = () => String.fromCharCode(65 + (unknowns.value.length % 26));
const add = () => unknowns.value.push({ code: next(), value: '' });
function without(i: number) {
  const [gone] = unknowns.value.splice(i, 1);
  if (gone) emit('gone', gone.code);
}
</script>

<template>
  <fieldset class="sheet" :disabled="!now.mayManage">
    <legend class="sr-only">{{ say('setting.unknowns') }}</legend>
    <h2 class="mb-1 text-lg font-bold" aria-hidden="true">{{ say('setting.unknowns') }}</h2>
    <p class="mb-2 text-quiet">{{ say('setting.unknownsText') }}</p>
    <ul class="grid gap-2">
      <li v-for="(u, i) in unknowns" :key="i" class="flex flex-wrap items-end gap-2">
        <TextField
          v-model="u.code"
          :name="`unknown-code-${i}`"
          :label="say('setting.code')"
          class="w-24"
          figure
          maxlength="8"
        />
        <TextField
          v-model="u.value"
          :name="`unknown-value-${i}`"
          :label="say('setting.value', { unit: now.unit })"
          class="w-52"
          figure
          inputmode="decimal"
          maxlength="20"
        />
        <button
          v-if="now.reference?.value"
          type="button"
          class="button"
          @click="u.value = String(now.reference?.value ?? '')"
        >
          {{ say('setting.takeReference') }}
        </button>
        <button type="button" class="button" :aria-label="say('setting.without', { code: u.code })" @click="without(i)">
          ×
        </button>
      </li>
    </ul>
    <div class="mt-2 flex flex-wrap items-end gap-2">
      <button type="button" class="button" @click="add">{{ say('setting.add') }}</button>
      <template v-if="codes.length && now.seats.length">
        <button type="button" class="button" @click="$emit('deal', 'in-turn', seed)">
          {{ say('setting.inTurn') }}
        </button>
        <button type="button" class="button" @click="$emit('deal', 'at-random', seed)">
          {{ say('setting.atRandom') }}
        </button>
        <div class="w-28">
          <label class="label" for="deal-seed">{{ say('setting.seed') }}</label>
          <input id="deal-seed" v-model.number="seed" type="number" min="0" class="field figure" />
        </div>
      </template>
    </div>
  </fieldset>
</template>
