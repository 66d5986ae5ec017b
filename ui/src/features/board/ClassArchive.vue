<script setup lang="ts">
// All reports of a class as one archive: how much came, and a way to stop.
import { ref } from 'vue';
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
    const path = `/api/classes/${props.classId}/practicals/${props.practical}/archive.zip`;
    const res = await fetch(path, { signal: stopping.signal });
    if (!res.ok || !res.body) throw new Error(say('archive.failed'));
    of.value = Number(res.headers.get('X-Reports')) || 0;
    const parts: BlobPart[] = [];
    const reader = res.body.getReader();
    for (let next = await reader.read(); !next.done; next = await reader.read()) {
      parts.push(next.value);
      got.value += next.value.length;
    }
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob(parts, { type: 'application/zip' }));
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
