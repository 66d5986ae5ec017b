<script setup lang="ts">
// What is not with the server: what waits, and what was refused, with the reason. A
// refused entry is mended and sent again, or copied; it goes only when it is said twice.
import { ref } from 'vue';
import { v7 as uuid } from 'uuid';
import type { Entry } from '@/api/client';
import { useOutbox, type Refused } from '@/notebook/outbox';
import AppDialog from '@/shared/AppDialog.vue';
import { timeOf } from '@/shared/when';
import { say } from '@/words';

defineEmits<{ close: [] }>();
const outbox = useOutbox();
const mended = ref<Record<string, string>>({});
const sure = ref('');
const copied = ref(false);

const time = (e: Entry) => timeOf(e.at);

/** Where the text of an entry stands, where it has one that a person typed. */
const parts = ['reading', 'note', 'observation', 'answer'] as const;
const partOf = (e: Entry) => parts.find((p) => e[p]);
const said = (e: Entry) =>
  partOf(e)
    ? e[partOf(e)!]!.text
    : (e.correction?.value ?? e.setAside?.reason ?? e.weighing?.full ?? e.prepared?.taken ?? say(`kinds.${e.kind}`));
const key = (r: Refused) => r.entries[0]!.id;
const mendable = (r: Refused) => r.entries.filter(partOf);

function again(r: Refused) {
  const now = r.entries.map((e): Entry => {
    const part = partOf(e);
    const text = mended.value[e.id]?.trim();
    if (!part || !text || text === e[part]!.text) return e;
    return { ...e, id: uuid(), [part]: { ...e[part], text } } as Entry;
  });
  void outbox.resend(r, now);
}

function giveUp(r: Refused) {
  if (sure.value !== key(r)) sure.value = key(r);
  else outbox.giveUp(r);
}

async function copy() {
  await navigator.clipboard?.writeText(JSON.stringify(outbox.all, null, 1)).then(
    () => (copied.value = true),
    () => undefined,
  );
}
</script>

<template>
  <AppDialog :title="say('sent.title')" @close="$emit('close')">
    <p v-if="!outbox.all.length">{{ say('sent.nothing') }}</p>
    <section v-for="r in outbox.refused" :key="key(r)" class="mb-4 rounded-glass border border-alarm p-3">
      <p class="font-semibold text-alarm">{{ say('bench.refused') }}: {{ r.why }}</p>
      <p class="text-sm text-quiet">{{ time(r.entries[0]!) }} · {{ r.entries.map(said).join(', ') }}</p>
      <div v-for="e in mendable(r)" :key="e.id" class="mt-2">
        <label class="label" :for="'mend-' + e.id">{{ say('sent.mend') }}</label>
        <input
          :id="'mend-' + e.id"
          class="field figure"
          :value="mended[e.id] ?? said(e)"
          maxlength="2000"
          @input="mended[e.id] = ($event.target as HTMLInputElement).value"
        />
      </div>
      <div class="mt-2 flex flex-wrap gap-2">
        <button type="button" class="button" @click="again(r)">{{ say('sent.again') }}</button>
        <button type="button" class="button" @click="giveUp(r)">
          {{ say(sure === key(r) ? 'sent.deleteSure' : 'sent.delete') }}
        </button>
      </div>
    </section>
    <template v-if="outbox.pending">
      <p v-if="outbox.trouble" class="mb-2">{{ outbox.why }}</p>
      <template v-for="(why, id) in outbox.heldWhy" :key="id">
        <p v-if="why" class="mb-2 font-semibold text-alarm">{{ why }}</p>
      </template>
      <ul class="mb-3 list-disc pl-5">
        <li v-for="w in outbox.all.filter((w) => !w.why).slice(0, 30)" :key="w.entry.id">
          <span class="figure">{{ said(w.entry) }}</span> <span class="text-sm text-quiet">{{ time(w.entry) }}</span>
        </li>
      </ul>
      <button type="button" class="button-main" @click="outbox.send()">{{ say('sent.now') }}</button>
    </template>
    <p v-if="outbox.all.length" class="mt-3">
      <button type="button" class="button" @click="copy">{{ say('sent.copy') }}</button>
      <span class="ml-2" role="status">{{ copied ? say('sent.copied') : '' }}</span>
    </p>
  </AppDialog>
</template>
