<script setup lang="ts">
// Handing in: what is missing, when it is due, the receipt; the versions before.
import { useMutation, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import type { Notebook, Schemas } from '@/api/client';
import { keys } from '@/api/keys';
import { takeBack } from '@/api/reports';
import { useHandIns } from '@/notebook/handins';
import { useOutbox } from '@/notebook/outbox';
import SequenceLine from '@/shared/SequenceLine.vue';
import AppDialog from '@/shared/AppDialog.vue';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; submissions: Schemas['Submission'][]; version: number }>();
const emit = defineEmits<{ show: [version: number]; giveBack: [version: number] }>();
const handIns = useHandIns();
const outbox = useOutbox();
const asking = ref(false);
const mine = computed(() => props.notebook.mayWrite && props.notebook.role === 'student');
const waiting = computed(() => handIns.asked.find((a) => a.notebook === props.notebook.id));
const lacks = computed(() => props.notebook.sheet.lacks);
const page = { bench: 'bench', work: 'work', report: 'report' } as const;
const over = computed(() => !!props.notebook.due && Date.parse(props.notebook.due) < Date.now());
const client = useQueryClient();
const back = useMutation({
  mutationFn: () => takeBack(props.notebook.id, props.notebook.handedIn!.version),
  onSuccess: () =>
    [keys.notebook(props.notebook.id), keys.report(props.notebook.id), keys.shelf].forEach(
      (queryKey) => void client.invalidateQueries({ queryKey }),
    ),
});
function now() {
  asking.value = false;
  void handIns.ask(props.notebook.id, props.notebook.sheet.entries);
}
</script>

<template>
  <section class="no-print sheet grid grid-cols-1 gap-3" data-test="hand-in">
    <div v-if="notebook.parts">
      <h2 class="font-bold">{{ say('report.parts') }}</h2>
      <SequenceLine :parts="notebook.parts" here="" />
    </div>
    <p v-if="notebook.due" :class="over && !notebook.handedIn && 'font-semibold text-alarm'">
      {{ say('report.due', { at: whenIs(notebook.due) }) }}
    </p>
    <div v-if="notebook.handedIn" class="rounded-glass bg-tint p-3" role="status">
      <p class="text-lg font-bold">
        {{ say('report.isHandedIn', { version: notebook.handedIn.version, at: whenIs(notebook.handedIn.at) }) }}
        <span v-if="notebook.handedIn.late" class="text-alarm">{{ say('report.late') }}</span>
      </p>
      <details>
        <summary class="min-h-11">{{ say('report.receipt') }}</summary>
        <p class="figure text-sm break-all" data-test="hash">{{ notebook.handedIn.hash }}</p>
        <pre class="figure text-xs break-all whitespace-pre-wrap">{{ notebook.handedIn.receipt }}</pre>
        <p class="text-sm text-quiet">{{ say('report.receiptWhat') }}</p>
      </details>
      <p v-if="mine" class="text-sm">{{ say('report.notesOnly') }}</p>
      <div v-if="notebook.takeBack" class="mt-1 flex flex-wrap items-center gap-2">
        <button type="button" class="button" :disabled="back.isPending.value" @click="back.mutate()">
          {{ say('report.takeBack') }}
        </button>
        <span class="text-sm text-quiet">{{ say('report.takeBackWhat') }}</span>
      </div>
      <p v-if="back.error.value" class="font-semibold text-alarm" role="alert">{{ back.error.value.message }}</p>
    </div>
    <template v-else>
      <template v-if="lacks.length">
        <h2 class="font-bold">{{ say('report.missing') }}</h2>
        <ul class="grid gap-1">
          <li v-for="(l, i) in lacks" :key="i">
            <RouterLink :to="{ name: page[l.where], params: { id: notebook.id } }" class="underline">{{
              l.text
            }}</RouterLink>
          </li>
        </ul>
      </template>
      <p v-else class="text-agree">{{ say('report.complete') }}</p>
      <div v-if="waiting" class="rounded-glass border border-rough p-3" role="status">
        <p class="font-semibold text-rough">
          {{ waiting.why ? say('report.refused', { why: waiting.why }) : say('report.waits') }}
        </p>
        <button type="button" class="button mt-1" @click="handIns.drop(notebook.id)">{{ say('report.notYet') }}</button>
      </div>
      <div v-if="notebook.handingIn" class="rounded-glass bg-tint p-3" role="status" data-test="handing-in">
        <p class="font-semibold">{{ say('report.agreed', { names: notebook.handingIn.agreed.join(', ') }) }}</p>
        <p>{{ say('report.awaits', { names: notebook.handingIn.awaits.join(', ') }) }}</p>
      </div>
      <button
        v-if="mine && !waiting && !notebook.handingIn?.mine"
        type="button"
        class="button-main"
        @click="asking = true"
      >
        {{ say(notebook.handingIn ? 'report.agree' : 'report.handIn') }}
      </button>
    </template>
    <template v-if="submissions.length">
      <h2 class="font-bold">{{ say('report.versions') }}</h2>
      <ul class="grid gap-2">
        <li v-for="s in submissions" :key="s.version">
          <button
            type="button"
            class="button w-full"
            :class="version === s.version && 'chosen'"
            :aria-pressed="version === s.version"
            @click="emit('show', version === s.version ? 0 : s.version)"
          >
            {{ say('report.version', { version: s.version, at: whenIs(s.at) })
            }}{{ s.late ? `, ${say('report.late')}` : '' }}
          </button>
          <p v-if="s.returned" class="text-sm">
            {{ say('report.returned', { by: s.returnedBy ?? '', at: whenIs(s.returned), reason: s.reason ?? '' }) }}
          </p>
          <button
            v-else-if="notebook.role === 'instructor'"
            type="button"
            class="link-strong"
            @click="emit('giveBack', s.version)"
          >
            {{ say('report.giveBack') }}
          </button>
        </li>
      </ul>
    </template>
    <AppDialog v-if="asking" :title="say('report.handIn')" @close="asking = false">
      <div class="grid gap-3">
        <p>{{ say('report.frozen') }}</p>
        <p v-if="over" class="font-semibold text-alarm">{{ say('report.willBeLate') }}</p>
        <p v-if="outbox.waitingFor(notebook.id).length" class="font-semibold text-rough">{{ say('report.unsent') }}</p>
        <template v-if="lacks.length">
          <p class="font-semibold">{{ say('report.missing') }}</p>
          <ul class="list-disc pl-5 text-sm">
            <li v-for="(l, i) in lacks" :key="i">{{ l.text }}</li>
          </ul>
        </template>
        <div class="flex justify-end gap-2">
          <button type="button" class="button" @click="asking = false">{{ say('dialog.cancel') }}</button>
          <button type="button" class="button-main" data-test="hand-in-now" @click="now">
            {{ say(lacks.length ? 'report.handInAnyway' : 'report.handIn') }}
          </button>
        </div>
      </div>
    </AppDialog>
  </section>
</template>
