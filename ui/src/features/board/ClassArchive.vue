<script setup lang="ts">
// All reports of a class as one archive: how much came, and a way to stop.
import { ref } from 'vue';
import { classArchive } from '@/api/archive';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string; title: string }>();
const got = ref(-1); // bytes; -1: nothing goes on
const of = ref(0); // reports
const failed = ref('');
let stopping: AbortController | undefined;

async function take() {
  failed.value = '';
  got.value = 0;
  stopping = new AbortController();
  try {
    const all = await classArchive(
      { class: props.classId, practical: props.practical },
      stopping.signal,
      (bytes, reports) => ([got.value, of.value] = [bytes, reports]),
    );
    const link = document.createElement('a');
    link.href = URL.createObjectURL(all);
    link.download = props.title + '.zip';
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
  } catch (e) {
    if (!stopping.signal.aborted) failed.value = e instanceof Error ? e.message : String(e);
  }
  got.value = -1;
}
</script>

<template>
  <span class="inline-flex flex-wrap items-center gap-2">
    <button v-if="got < 0" type="button" class="button" data-test="archive" @click="take">
      {{ say('archive.all') }}
    </button>
    <template v-else>
      <span role="status">{{ say('archive.comes', { size: (got / 1e6).toFixed(1), count: of }, of) }}</span>
      <button type="button" class="button" @click="stopping?.abort()">{{ say('archive.stop') }}</button>
    </template>
    <span v-if="failed" class="font-semibold text-alarm" role="alert">{{ failed }}</span>
  </span>
</template>
