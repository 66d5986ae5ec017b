<script setup lang="ts">
// The report as one page; printed as it stands, readable without colour.
import type { Schemas } from '@/api/client';
import { computed } from 'vue';
import CurvePanel from '@/features/curve/CurvePanel.vue';
import SampleList from '@/features/result/SampleList.vue';
import Figures from '@/features/result/Figures.vue';
import { settingRows } from '@/shared/setting';
import Tex from '@/shared/Tex.vue';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{ report: Schemas['Report']; notebook: string }>();
const written = computed(() => props.report.passages.filter((p) => p.stand.some((s) => s.text)));
const corrected = (c: Schemas['Corrected']) => {
  const place = c.trial ? `${c.trial}, ${c.place}` : c.place;
  const reason = c.reason ?? say('bench.again');
  return say('report.struck', { place, text: c.text, reason, by: c.by ?? '', at: whenIs(c.at) });
};
</script>

<template>
  <article
    class="panel w-full max-w-[60rem] p-6 max-sm:border-0 max-sm:p-0 print:border-0 print:p-0 print:text-[10.5pt]"
  >
    <header class="mb-3 border-b-2 border-ink pb-2">
      <h2 class="text-2xl font-bold print:text-[16pt]">{{ report.title }}</h2>
      <p>
        {{ say('report.student') }}: <strong>{{ report.student }}</strong>
        <template v-if="report.partners.length">, {{ report.partners.join(', ') }}</template> ·
        {{ say('report.class') }}: {{ report.class }} · {{ say('report.begun') }}: {{ whenIs(report.begun) }}
      </p>
    </header>
    <p v-if="report.purpose" class="mb-3">{{ report.purpose }}</p>
    <h2 class="mt-3 mb-1 font-bold">{{ say('report.method') }}</h2>
    <p v-if="report.setting.equationLatex" class="mb-1"><Tex :source="report.setting.equationLatex" /></p>
    <dl class="grid grid-cols-[auto_1fr] gap-x-3">
      <template v-for="[label, value] in settingRows(report.setting)" :key="label">
        <dt class="text-quiet">{{ say(label) }}</dt>
        <dd>{{ value }}</dd>
      </template>
    </dl>
    <p v-if="report.setting.rules.length" class="mt-1 text-sm">{{ report.setting.rules.join('. ') }}.</p>
    <p class="text-sm">
      <strong>{{ say('bench.cautions') }}:</strong> {{ report.setting.cautions.join(' ') }}
      {{ say('bench.localRules') }}
    </p>

    <h2 v-if="report.columns.length" class="mt-3 mb-1 font-bold">{{ say('report.readings') }}</h2>
    <div v-if="report.columns.length" class="overflow-x-auto">
      <table class="w-full border-collapse border-y-2 border-ink text-left">
        <thead>
          <tr class="border-b border-ink text-sm">
            <th scope="col" class="py-1">{{ say('bench.trial') }}</th>
            <th v-for="c in report.columns" :key="c.code" scope="col" class="py-1 pl-2 text-right">{{ c.head }}</th>
            <th scope="col" class="py-1 pl-4 max-sm:hidden print:table-cell">{{ say('bench.verdict') }}</th>
          </tr>
        </thead>
        <tbody v-for="row in report.rows" :key="row.name" class="border-b border-hair">
          <tr class="align-baseline">
            <th scope="row" class="py-0.5 font-semibold" :class="row.struck && 'line-through'">{{ row.name }}</th>
            <td
              v-for="(cell, i) in row.cells"
              :key="i"
              class="figure pl-2 text-right last:font-bold"
              :class="row.struck && i === row.cells.length - 1 && 'line-through'"
            >
              <s v-for="(s, n) in cell.struck" :key="n" class="mr-2 text-quiet max-sm:mr-0 max-sm:block">{{ s }}</s>{{
                cell.text || '–'
              }}
            </td>
            <td class="pl-4 text-sm max-sm:hidden print:table-cell">{{ row.reason }}</td>
          </tr>
          <tr class="sm:hidden print:hidden">
            <td :colspan="report.columns.length + 1" class="pb-1 text-sm">{{ row.reason }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <CurvePanel v-if="report.runs?.length" :sheet="report" class="mt-3 print:border-0 print:p-0" />
    <p class="mt-2 font-semibold">{{ report.agreement }}</p>
    <p v-for="r in report.remarks" :key="r" class="text-sm">{{ r }}</p>

    <template v-if="report.own.length">
      <h2 class="mt-3 mb-1 font-bold">{{ say('report.own') }}</h2>
      <ul class="list-disc pl-5 text-sm">
        <li v-for="o in report.own" :key="o.title">
          {{ o.title }}: <s v-for="s in o.struck" :key="s" class="figure mr-1 text-quiet">{{ s }}</s>
          <span class="figure">{{ o.value }}</span>
          <span v-if="o.verdict"> · {{ o.verdict }}</span>
        </li>
      </ul>
    </template>
    <template v-if="report.answer">
      <h2 class="mt-3 mb-1 font-bold">{{ say('report.working') }}</h2>
      <ol class="grid grid-cols-1 gap-1.5">
        <li v-for="(step, i) in report.answer.steps" :key="i">
          <span class="text-sm">{{ i + 1 }}. {{ step.title }}</span>
          <Figures :tokens="step.tokens" quiet class="print:text-[10.5pt]" />
        </li>
      </ol>
      <h2 class="mt-3 mb-1 font-bold">{{ say('report.result') }}</h2>
      <p class="border-2 border-ink p-2 text-lg font-semibold print:text-[12pt]">{{ report.answer.statement }}</p>
      <p class="mt-1 text-sm">
        {{ report.answer.figures }}. {{ report.answer.comparison }} {{ report.answer.uncertainty?.sentence }}
      </p>
    </template>
    <SampleList v-else-if="report.samples?.length && !report.withheld" :samples="report.samples" still class="mt-3" />
    <p v-else class="mt-3 font-semibold">{{ say(report.withheld ? 'result.withheld' : 'result.notYet') }}</p>

    <!-- Who writes it writes here, in its place; paper has what was written. -->
    <slot name="writing" />
    <div :class="$slots.writing && 'hidden print:block'">
      <template v-for="p in written" :key="p.prompt">
        <h2 class="mt-3 mb-1 font-bold">{{ p.title }}</h2>
        <p v-for="s in p.stand" :key="s.entry" class="wrap-anywhere whitespace-pre-line">{{ s.text }}</p>
      </template>
      <div v-if="report.pictures.length" class="mt-3 grid grid-cols-2 gap-3">
        <figure v-for="p in report.pictures" :key="p.entry" class="break-inside-avoid">
          <img
            :src="`/api/notebooks/${notebook}/pictures/${p.hash}`"
            :width="p.width"
            :height="p.height"
            :alt="p.text || say('report.noCaption')"
            class="h-auto max-h-72 w-full object-contain"
          />
          <figcaption class="text-sm">{{ p.text }}</figcaption>
        </figure>
      </div>
    </div>
    <template v-if="report.observed.length">
      <h2 class="mt-3 mb-1 font-bold">{{ say('bench.log') }}</h2>
      <ul class="list-disc pl-5 text-sm">
        <li v-for="l in report.observed" :key="l.entry" :class="l.withdrawn && 'line-through'">
          <template v-if="l.what">{{ l.what }}: </template>{{ l.text }}
        </li>
      </ul>
    </template>
    <h2 class="mt-3 mb-1 font-bold">{{ say('report.notes') }}</h2>
    <ul
      v-if="report.corrections.length || report.findings.length || report.notes.length"
      class="list-disc pl-5 text-sm"
    >
      <li v-for="(n, i) in report.notes" :key="'n' + i" :class="n.struck && 'line-through'">{{ n.text }}</li>
      <li v-for="(c, i) in report.corrections" :key="'c' + i">{{ corrected(c) }}</li>
      <li v-for="(f, i) in report.findings" :key="'f' + i">
        <strong v-if="f.place">{{ f.place }}: </strong>{{ f.text }}
      </li>
    </ul>
    <p v-else class="text-sm">{{ say('report.none') }}</p>
    <footer class="mt-4 border-t border-hair pt-1 text-xs text-quiet">
      {{ say('report.madeWith', { entries: report.entries }) }}
      <span v-if="report.seal">{{ say('report.seal', { seal: report.seal }) }}</span>
    </footer>
  </article>
</template>
