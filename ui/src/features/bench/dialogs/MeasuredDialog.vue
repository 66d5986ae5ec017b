<script setup lang="ts">
// A value that was measured in the place of the one that the practical gives.
import { ref } from 'vue';
import { useDraft } from '@/device/drafts';
import type { Schemas } from '@/api/client';
import AppDialog from '@/shared/AppDialog.vue';
import { beginAt } from '@/shared/focus';
import { say } from '@/words';

const props = defineProps<{ value: Schemas['MeasuredValue']; problem: string; doubt: string; draft: string }>();
const emit = defineEmits<{ done: [value: string]; takeBack: [entry: string]; close: [] }>();
const written = useDraft(props.draft, { value: '' });
const field = ref<HTMLInputElement>();
beginAt(() => field.value);
function ready() {
  const value = written.value.value.trim();
  if (value) emit('done', value);
}
</script>

<template>
  <AppDialog :title="value.name" :typed="written.value !== ''" @close="emit('close')">
    <form @submit.prevent="ready">
      <p v-if="value.given" class="mb-2">{{ say('dialog.measured.given', { given: value.given }) }}</p>
      <p v-if="value.written" class="mb-2 font-semibold text-rough">
        {{ say('dialog.measured.before', { value: `${value.written} ${value.unitText}` }) }}
      </p>
      <p v-if="doubt" class="mb-3 font-semibold text-rough" role="alert">{{ doubt }}</p>
      <p v-if="problem" class="mb-3 font-semibold text-alarm" role="alert">{{ problem }}</p>
      <label class="label" for="measured">{{ say('dialog.measured.value', { unit: value.unitText }) }}</label>
      <input
        id="measured"
        ref="field"
        v-model="written.value"
        class="field figure mb-3 text-right text-xl"
        inputmode="decimal"
        autocomplete="off"
        required
        maxlength="24"
      />
      <button type="submit" class="button-main w-full">{{ say(doubt ? 'dialog.asItIs' : 'dialog.keepText') }}</button>
      <button v-if="value.entry" type="button" class="button mt-2 w-full" @click="emit('takeBack', value.entry)">
        {{ say('dialog.measured.takeBack') }}
      </button>
    </form>
  </AppDialog>
</template>
