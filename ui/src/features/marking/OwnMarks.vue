<script setup lang="ts">
// The marks of one's own report, once they are released: with the evidence, what was
// said, and beside them the report as it was handed in.
import { ref } from 'vue';
import type { Notebook } from '@/api/client';
import { useOwnMarks } from '@/api/marking';
import { useReport } from '@/api/queries';
import TextDialog from '@/features/bench/dialogs/TextDialog.vue';
import EvidenceList from '@/features/marking/EvidenceList.vue';
import { written } from '@/features/marking/marks';
import RequestAnswer from '@/features/marking/RequestAnswer.vue';
import ReportPage from '@/features/report/ReportPage.vue';
import { useEvents } from '@/notebook/useEvents';
import Trouble from '@/shared/Trouble.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
useEvents(props.notebook.id);
const { query, askAgain } = useOwnMarks(() => props.notebook.id);
const marks = query.data;
const { data: report } = useReport(
  () => props.notebook.id,
  () => marks.value?.version ?? 0,
);
const open = ref('');
const asking = ref('');
const trouble = ref('');
async function ask(reason: string) {
  trouble.value = '';
  try {
    await askAgain(asking.value, reason);
    asking.value = '';
  } catch (e) {
    trouble.value = e instanceof Error ? e.message : String(e);
  }
}
const never = () => Promise.resolve();
</script>

<template>
  <div v-if="marks" class="grid grid-cols-1 items-start gap-4 xl:grid-cols-[30rem_1fr]" data-test="own-marks">
    <section>
      <h2 class="mb-2 text-2xl font-bold">
        <span class="figure mr-2" data-test="total">{{ written(marks.total) }}</span>
        <span class="text-base font-normal text-quiet">
          {{ say('marking.of', { possible: written(marks.possible) }) }}</span
        >
      </h2>
      <!-- What was lost stands first, each with its reason and its figure; what was full is one line. -->
      <ul>
        <li v-for="l in marks.lines.filter((l) => !l.full)" :key="l.id" class="row py-2" data-test="lost">
          <h3 class="flex items-baseline justify-between gap-2 font-bold">
            <span>{{ l.title }}</span>
            <span class="figure whitespace-nowrap"
              ><strong>{{ written(l.award?.marks) }}</strong
              ><span class="font-normal text-quiet">/{{ written(l.most) }}</span></span
            >
          </h3>
          <EvidenceList :line="l" student />
          <button v-if="marks.mayAsk" type="button" class="min-h-11 underline" @click="asking = l.id">
            {{ say('marks.ask') }}
          </button>
        </li>
      </ul>
      <ul data-test="full">
        <li v-for="l in marks.lines.filter((l) => l.full)" :key="l.id" class="row">
          <button
            type="button"
            class="print-keep flex min-h-9 w-full items-center justify-between gap-2 text-left"
            :aria-expanded="open === l.id"
            @click="open = open === l.id ? '' : l.id"
          >
            <span>{{ l.title }}<span v-if="l.award?.comment" class="text-accent"> ✎</span></span>
            <span class="figure whitespace-nowrap"
              ><span class="text-agree">✓</span> {{ written(l.award?.marks)
              }}<span class="text-quiet">/{{ written(l.most) }}</span></span
            >
          </button>
          <div v-if="open === l.id" class="pb-3">
            <EvidenceList :line="l" student />
            <button v-if="marks.mayAsk" type="button" class="min-h-11 underline" @click="asking = l.id">
              {{ say('marks.ask') }}
            </button>
          </div>
          <p v-else-if="l.award?.comment" class="mb-1 border-l-4 border-accent pl-2 text-sm">{{ l.award.comment }}</p>
        </li>
      </ul>
    </section>
    <div class="grid gap-3">
      <RequestAnswer v-for="r in marks.requests" :key="r.id" :request="r" :may-answer="false" :answer="never" />
      <p>
        <a class="button" :href="`/api/notebooks/${notebook.id}/report.pdf?version=${marks.version}`" download>{{
          say('marks.pdf')
        }}</a>
      </p>
      <ReportPage v-if="report" :report="report" :notebook="notebook.id" />
    </div>
    <TextDialog
      v-if="asking"
      :title="say('marks.ask')"
      :label="say('marks.why')"
      :draft="`ask.${notebook.id}.${asking}`"
      :problem="trouble"
      :most="500"
      :lines="3"
      @done="ask"
      @close="asking = ''"
    />
  </div>
  <div v-else-if="query.error.value && notebook.marked" class="sheet">
    <Trouble :error="query.error.value" @again="query.refetch()" />
  </div>
  <p v-else class="sheet text-lg" data-test="no-marks">{{ say('marks.notYet') }}</p>
</template>
