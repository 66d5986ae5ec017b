<script setup lang="ts">
// The scheme, changed while a class is marked: what it would change for whom, before it
// is kept.
import { ref, watch } from 'vue';
import { Problem } from '@/api/client';
import type { Desk, Scheme } from '@/api/marking';
import type { Schemas } from '@/api/client';
import { useDraft, dropDrafts } from '@/device/drafts';
import { written } from '@/features/marking/marks';
import SchemeEditor from '@/features/marking/SchemeEditor.vue';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const props = defineProps<{
  desk: Desk;
  draft: string;
  change: {
    tryScheme: (s: Scheme) => Promise<Schemas['SchemeEffect'][]>;
    setScheme: (s: Scheme, revision: number) => Promise<unknown>;
  };
}>();
const emit = defineEmits<{ close: [] }>();
const scheme = useDraft<Scheme>(props.draft, props.desk.scheme);
const effects = ref<Schemas['SchemeEffect'][]>();
const fault = ref<{ path: string; text: string }>();
const busy = ref(false);
watch(scheme, () => (effects.value = undefined), { deep: true });

async function attempt(what: () => Promise<void>) {
  fault.value = undefined;
  busy.value = true;
  try {
    await what();
  } catch (e) {
    fault.value = {
      path: e instanceof Problem ? e.location : '',
      text: e instanceof Error ? e.message : String(e),
    };
  } finally {
    busy.value = false;
  }
}
const look = () => attempt(async () => void (effects.value = await props.change.tryScheme(scheme.value)));
const keep = () =>
  attempt(async () => {
    await props.change.setScheme(scheme.value, props.desk.revision);
    dropDrafts(props.draft);
    emit('close');
  });
</script>

<template>
  <AppDialog :title="say('scheme.title')" typed wide @close="emit('close')">
    <p class="mb-2 text-quiet">{{ say('scheme.intro') }}</p>
    <SchemeEditor v-model="scheme" :parts="desk.parts" :fault="fault" />
    <p v-if="fault" class="mt-2 font-semibold text-alarm" role="alert">{{ fault.text }}</p>
    <section v-if="effects" class="mt-3" data-test="effects">
      <h3 class="font-bold">{{ say('scheme.effects', {}, effects.length) }}</h3>
      <ul class="grid gap-1 text-sm">
        <li v-for="e in effects" :key="e.notebook" class="rounded-glass bg-well px-2 py-1">
          <strong>{{ e.name }}</strong> <span class="figure">{{ written(e.was) }} → {{ written(e.is) }}</span
          >: {{ e.criteria.join(', ') }}
          <span v-if="e.kept" class="text-quiet">{{ say('scheme.kept', {}, e.kept) }}</span>
        </li>
      </ul>
    </section>
    <div class="mt-3 flex flex-wrap gap-2">
      <button type="button" class="button" :disabled="busy" data-test="try-scheme" @click="look">
        {{ say('scheme.try') }}
      </button>
      <button type="button" class="button-main" :disabled="busy || !effects" data-test="keep-scheme" @click="keep">
        {{ say('scheme.keep') }}
      </button>
    </div>
  </AppDialog>
</template>
