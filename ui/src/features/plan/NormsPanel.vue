<script setup lang="ts">
// The rules of a class, or of the whole installation, to be read and changed.
import { ref, watch } from 'vue';
import { placeOf } from '@/api/client';
import { useNorms, useSaveNorms } from '@/api/norms';
import NormsFields from '@/features/plan/NormsFields.vue';
import { say } from '@/words';

const props = defineProps<{ classId?: string }>();
const { data: groups } = useNorms(() => props.classId);
const own = ref<Record<string, string>>({});
const fault = ref<{ path: string; text: string }>();
const saved = ref(false);
watch(
  groups,
  (now) => {
    own.value = Object.fromEntries(
      (now ?? []).flatMap((g) => g.norms).flatMap((n) => (n.own ? [[n.name, n.own]] : [])),
    );
  },
  { immediate: true },
);
watch(own, () => (saved.value = false));
const store = useSaveNorms();
async function save() {
  fault.value = undefined;
  try {
    await store(props.classId, own.value);
    saved.value = true;
  } catch (e) {
    fault.value = placeOf(e);
  }
}
</script>

<template>
  <details v-if="groups" class="sheet" data-test="norms">
    <summary class="min-h-11 text-lg font-bold">{{ say('norms.title') }}</summary>
    <form class="mt-2 grid max-w-2xl gap-3" @submit.prevent="save">
      <p>{{ say(classId ? 'norms.ofClass' : 'norms.ofAll') }}</p>
      <NormsFields v-model="own" :groups="groups" :fault="fault" />
      <p v-if="fault" class="font-semibold text-alarm" role="alert">{{ fault.text }}</p>
      <div class="flex items-center gap-3">
        <button class="button">{{ say('norms.save') }}</button>
        <span v-if="saved" class="text-sm font-semibold text-agree" role="status">{{ say('norms.saved') }}</span>
      </div>
    </form>
  </details>
</template>
