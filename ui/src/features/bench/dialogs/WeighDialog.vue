<script setup lang="ts">
// A mass by difference: vessel with the solid, then the emptied vessel.
import { ref } from 'vue';
import { useDraft } from '@/device/drafts';
import AppDialog from '@/shared/AppDialog.vue';
import { beginAt } from '@/shared/focus';
import { say } from '@/words';

const props = defineProps<{
  problem: string;
  doubt: string;
  what?: string;
  trial?: string;
  before?: string;
  draft: string;
}>();
const emit = defineEmits<{ done: [of: string, full: string, emptied: string]; close: [] }>();
const values = useDraft(props.draft, { of: props.what ?? '', full: '', emptied: '' });
const fields = ['of', 'full', 'emptied'] as const;
const first = ref<HTMLInputElement[]>();
beginAt(() => first.value?.[0]);
function ready() {
  const { of, full, emptied } = values.value;
  if (of.trim() && full.trim() && emptied.trim()) emit('done', of.trim(), full.trim(), emptied.trim());
}
</script>

<template>
  <AppDialog :title="say('bench.weigh')" :typed="(values.full || values.emptied) !== ''" @close="emit('close')">
    <form @submit.prevent="ready">
      <p v-if="trial" class="mb-2">{{ say('dialog.weigh.for', { trial }) }}</p>
      <p v-if="before" class="mb-2 font-semibold text-rough">{{ say('dialog.weigh.before', { mass: before }) }}</p>
      <p v-if="doubt" class="mb-3 font-semibold text-rough" role="alert">{{ doubt }}</p>
      <p v-if="problem" class="mb-3 font-semibold text-alarm" role="alert">{{ problem }}</p>
      <template v-for="f in fields" :key="f">
        <label class="label" :for="'weigh-' + f">{{ say(`dialog.weigh.${f}`) }}</label>
        <input
          :id="'weigh-' + f"
          ref="first"
          v-model="values[f]"
          class="field mb-3"
          :class="f !== 'of' && 'figure text-right text-xl'"
          :inputmode="f === 'of' ? 'text' : 'decimal'"
          autocomplete="off"
          required
          :maxlength="f === 'of' ? 80 : 24"
        />
      </template>
      <button type="submit" class="button-main w-full">{{ say(doubt ? 'dialog.asItIs' : 'dialog.keepText') }}</button>
    </form>
  </AppDialog>
</template>
