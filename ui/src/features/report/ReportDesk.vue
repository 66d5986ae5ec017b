<script setup lang="ts">
// The report, written on the page that will be read, each part in its place; what is missing and how it is
// handed in stand in the margin.
import { useQueryClient } from '@tanstack/vue-query';
import { computed, ref, toRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { Notebook } from '@/api/client';
import { useReport } from '@/api/queries';
import { keys } from '@/api/keys';
import { giveBack } from '@/api/reports';
import TextDialog from '@/features/bench/dialogs/TextDialog.vue';
import HandIn from '@/features/report/HandIn.vue';
import ReportPage from '@/features/report/ReportPage.vue';
import ReportWriting from '@/features/report/ReportWriting.vue';
import { useBench } from '@/notebook/useBench';
import { useEvents } from '@/notebook/useEvents';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
const bench = useBench(toRef(props, 'notebook'));
useEvents(props.notebook.id);
const route = useRoute();
const router = useRouter();
const client = useQueryClient();
const version = computed(() => Number(route.query.version) || 0);
const show = (v: number) => router.replace({ query: v ? { version: v } : {} });
const { data: report, error, refetch } = useReport(() => props.notebook.id, version);
// What was written meanwhile belongs on the page.
watch(
  () => [props.notebook.sheet.entries, props.notebook.handedIn?.version],
  () => void refetch(),
);
const writes = computed(() => props.notebook.mayWrite && !props.notebook.handedIn);
const returning = ref(0);
const failed = ref('');
async function back(reason: string) {
  const v = returning.value;
  returning.value = 0;
  failed.value = '';
  try {
    await giveBack(props.notebook.id, v, reason);
  } catch (e) {
    failed.value = e instanceof Error ? e.message : String(e);
  }
  await Promise.all([
    client.invalidateQueries({ queryKey: keys.notebook(props.notebook.id) }),
    client.invalidateQueries({ queryKey: keys.report(props.notebook.id) }),
  ]);
}
const files = ['pdf', 'xlsx', 'csv', 'zip'] as const;
// Letter where it is the usual paper; A4 elsewhere.
const paper = /^en-(US|CA)$/.test(navigator.language) ? 'Letter' : 'A4';
function fileAt(ending: (typeof files)[number]) {
  const query = [version.value && `version=${version.value}`, ending === 'pdf' && `paper=${paper}`].filter(Boolean);
  return `/api/notebooks/${props.notebook.id}/report.${ending}${query.length ? '?' + query.join('&') : ''}`;
}
const print = () => window.print();
</script>

<template>
  <div class="grid items-start gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_20rem] print:block">
    <div class="no-print grid min-w-0 grid-cols-1 gap-4 lg:sticky lg:top-2 lg:order-2">
      <HandIn
        :notebook="notebook"
        :submissions="report?.submissions ?? []"
        :version="version"
        @show="show"
        @give-back="returning = $event"
      />
      <p v-if="failed" class="font-semibold text-alarm" role="alert">{{ failed }}</p>
    </div>
    <div>
      <div class="no-print mb-3 flex flex-wrap gap-2">
        <button type="button" class="button px-3" @click="print">{{ say('report.print') }}</button>
        <a v-for="f in files" :key="f" class="button px-3" :href="fileAt(f)" download>{{ say(`report.file.${f}`) }}</a>
        <a class="button px-3" :href="`/api/notebooks/${notebook.id}/document`" download>{{ say('report.data') }}</a>
      </div>
      <p v-if="version" class="no-print mb-2 rounded-glass bg-tint p-2 font-semibold">
        {{ say('report.showsVersion', { version }) }}
        <button type="button" class="min-h-11 underline" @click="show(0)">{{ say('report.showNow') }}</button>
      </p>
      <ul v-if="report?.changes.length" class="no-print sheet mb-3 list-disc pl-8 text-sm" data-test="changes">
        <li v-for="(c, i) in report.changes" :key="i" class="wrap-anywhere">{{ c }}</li>
      </ul>
      <ReportPage v-if="report" :report="report" :notebook="notebook.id">
        <template v-if="!version" #writing>
          <ReportWriting :notebook="notebook" :bench="bench" :may-write="writes" />
        </template>
      </ReportPage>
      <template v-else>
        <Trouble v-if="error" :error="error" @again="refetch()" />
        <Waiting v-else />
        <!-- It is written without the network too. -->
        <ReportWriting :notebook="notebook" :bench="bench" :may-write="writes" />
      </template>
    </div>
    <TextDialog
      v-if="returning"
      :title="say('report.giveBack')"
      :label="say('report.whyBack')"
      :draft="`return.${notebook.id}`"
      problem=""
      :most="500"
      :lines="3"
      @done="back"
      @close="returning = 0"
    />
  </div>
</template>
