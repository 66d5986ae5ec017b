<script setup lang="ts">
// The report as one page; printed as it stands, readable without colour.
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Notebook } from '@/api/client';
import Figures from '@/features/result/Figures.vue';
import Tex from '@/shared/Tex.vue';

const props = defineProps<{ notebook: Notebook }>();
const { t } = useI18n();
const sheet = computed(() => props.notebook.sheet);
const date = (s: string) => new Date(s).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

const method = computed(() => [
  ['bench.burette', sheet.value.setting.titrant],
  ['bench.flask', sheet.value.setting.analyte],
  ['bench.indicator', sheet.value.setting.indicator],
  ['bench.glass', sheet.value.setting.glass],
]);

const struck = computed(() =>
  sheet.value.evaluation.trials.flatMap((trial) =>
    (['start', 'end', 'setAside'] as const).flatMap((mark) =>
      (trial.struck[mark] ?? []).map((s) =>
        t('report.struck', {
          trial: sheet.value.trials[trial.id]?.name ?? '',
          place: t(`bench.${mark}`).toLowerCase(),
          text: s.text,
          reason: s.reason ?? t('bench.again'),
          by: s.by ? (props.notebook.people[s.by] ?? '') : '',
          at: date(s.at),
        }),
      ),
    ),
  ),
);
const minus = (s: string) => s.replace('-', '−');
</script>

<template>
  <article class="panel mx-auto max-w-[52rem] p-6 print:border-0 print:p-0 print:text-[10.5pt]">
    <header class="mb-3 border-b-2 border-ink pb-2">
      <h1 class="text-2xl font-bold print:text-[16pt]">{{ notebook.practical.title }}</h1>
      <p>
        {{ $t('report.student') }}: <strong>{{ notebook.student }}</strong> · {{ $t('report.class') }}:
        {{ notebook.class }} · {{ $t('report.begun') }}: {{ date(notebook.started) }}
      </p>
    </header>
    <p v-if="notebook.practical.purpose" class="mb-3">{{ notebook.practical.purpose }}</p>
    <h2 class="mt-3 mb-1 font-bold">{{ $t('report.method') }}</h2>
    <p class="mb-1"><Tex :source="sheet.setting.equationLatex" /></p>
    <dl class="grid grid-cols-[auto_1fr] gap-x-3">
      <template v-for="[label, value] in method" :key="label">
        <dt class="text-quiet">{{ $t(label!) }}</dt>
        <dd>{{ value }}</dd>
      </template>
    </dl>
    <p class="mt-1 text-sm">{{ sheet.setting.rules.join('. ') }}.</p>
    <p class="text-sm">
      <strong>{{ $t('bench.cautions') }}:</strong> {{ sheet.setting.cautions.join(' ') }} {{ $t('bench.localRules') }}
    </p>

    <h2 class="mt-3 mb-1 font-bold">{{ $t('report.readings') }}</h2>
    <table class="w-full border-collapse border-y-2 border-ink text-left">
      <thead>
        <tr class="border-b border-ink text-sm">
          <th scope="col" class="py-1">{{ $t('bench.trial') }}</th>
          <th v-for="k in ['start', 'end', 'titre']" :key="k" scope="col" class="py-1 pl-2 text-right">
            {{ $t('bench.' + k) }} / {{ sheet.units.volume }}
          </th>
          <th scope="col" class="py-1 pl-4 max-sm:hidden print:table-cell">{{ $t('bench.verdict') }}</th>
        </tr>
      </thead>
      <tbody v-for="trial in sheet.evaluation.trials" :key="trial.id" class="border-b border-hair">
        <tr class="align-baseline">
          <th scope="row" class="py-0.5 font-semibold" :class="(trial.setAside || trial.withdrawn) && 'line-through'">
            {{ sheet.trials[trial.id]?.name }}
          </th>
          <td v-for="mark in ['start', 'end'] as const" :key="mark" class="figure pl-2 text-right">
            <s v-for="(s, i) in trial.struck[mark]" :key="i" class="mr-2 text-quiet max-sm:mr-0 max-sm:block">{{
              s.text
            }}</s>{{ trial[mark]?.text ?? '–' }}
          </td>
          <td class="figure pl-2 text-right font-bold" :class="(trial.setAside || trial.withdrawn) && 'line-through'">
            {{ trial.titre ? minus(trial.titre) : '–' }}
          </td>
          <td class="pl-4 text-sm max-sm:hidden print:table-cell">{{ sheet.trials[trial.id]?.reason }}</td>
        </tr>
        <tr class="sm:hidden print:hidden">
          <td colspan="4" class="pb-1 text-sm">{{ sheet.trials[trial.id]?.reason }}</td>
        </tr>
      </tbody>
    </table>
    <p class="mt-2 font-semibold">{{ sheet.agreement }}</p>

    <template v-if="sheet.answer">
      <h2 class="mt-3 mb-1 font-bold">{{ $t('report.working') }}</h2>
      <ol class="grid gap-1.5">
        <li v-for="(step, i) in sheet.answer.steps" :key="i">
          <span class="text-sm">{{ i + 1 }}. {{ step.title }}</span>
          <Figures :tokens="step.tokens" quiet class="print:!text-[10.5pt]" />
        </li>
      </ol>
      <h2 class="mt-3 mb-1 font-bold">{{ $t('report.result') }}</h2>
      <p class="border-2 border-ink p-2 text-lg font-semibold print:text-[12pt]">{{ sheet.answer.statement }}</p>
      <p class="mt-1 text-sm">
        {{ sheet.answer.figures }}. {{ sheet.answer.comparison }} {{ sheet.answer.uncertainty?.sentence }}
      </p>
    </template>
    <p v-else class="mt-3 font-semibold">{{ $t(sheet.evaluation.withheld ? 'result.withheld' : 'result.notYet') }}</p>

    <h2 class="mt-3 mb-1 font-bold">{{ $t('report.notes') }}</h2>
    <ul v-if="struck.length || sheet.findings.length || sheet.evaluation.notes.length" class="list-disc pl-5 text-sm">
      <li v-for="n in sheet.evaluation.notes" :key="n.entry">{{ n.text }}</li>
      <li v-for="s in struck" :key="s">{{ s }}</li>
      <li v-for="(f, i) in sheet.findings" :key="i">
        <strong v-if="f.place">{{ f.place }}: </strong>{{ f.text }}
      </li>
    </ul>
    <p v-else class="text-sm">{{ $t('report.none') }}</p>
    <footer class="mt-4 border-t border-hair pt-1 text-xs text-quiet">
      {{ $t('report.madeWith', { entries: sheet.evaluation.entries }) }}
    </footer>
  </article>
</template>
