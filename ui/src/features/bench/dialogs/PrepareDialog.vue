<script setup lang="ts">
// One's own solution made from a stock: what was taken, and what it was made up to.
import { ref } from 'vue';
import { useDraft } from '@/device/drafts';
import type { Schemas } from '@/api/client';
import AppDialog from '@/shared/AppDialog.vue';
import { beginAt } from '@/shared/focus';
import { say } from '@/words';

const props = defineProps<{ problem: string; doubt: string; draft: string; units: Schemas['UnitTexts'] }>();
const emit = defineEmits<{ done: [stock: string, taken: string, madeUp: string]; close: [] }>();
const values = useDraft(props.draft, { stock: '', taken: '', madeUp: '' });
const fields = ['stock', 'taken', 'madeUp'] as const;
const first = ref<HTMLInputElement[]>();
beginAt(() => first.value?.[0]);
function ready() {
  const { stock, taken, madeUp } = values.value;
  if (stock.trim() && taken.trim() && madeUp.trim()) emit('done', stock.trim(), taken.trim(), madeUp.trim());
}
</script>

<template>
  <AppDialog
    :title="say('bench.prepare')"
    :typed="(values.stock || values.taken || values.madeUp) !== ''"
    @close="emit('close')"
  >
    <form @submit.prevent="ready">
      <p v-if="doubt" class="mb-3 font-semibold text-rough" role="alert">{{ doubt }}</p>
      <p v-if="problem" class="mb-3 font-semibold text-alarm" role="alert">{{ problem }}</p>
      <template v-for="f in fields" :key="f">
        <label class="label" :for="'prepare-' + f">{{ say(`dialog.prepare.${f}`, units) }}</label>
        <input
          :id="'prepare-' + f"
          ref="first"
          v-model="values[f]"
          class="field figure mb-3 text-right text-xl"
          inputmode="decimal"
          autocomplete="off"
          required
          maxlength="24"
        />
      </template>
      <button type="submit" class="button-main w-full">{{ say(doubt ? 'dialog.asItIs' : 'dialog.keepText') }}</button>
    </form>
  </AppDialog>
</template>
