<script setup lang="ts">
// What the preparation room needs: quantities, how each solution is made, and
// labels to cut out. Printed as it stands.
import type { Schemas } from '@/api/client';
import { useCountdown } from '@/notebook/useCountdown';
import { say } from '@/words';

defineProps<{ plan: Schemas['Plan']; title: string }>();
const print = () => window.print();
const { kind: timing, left, start, stop } = useCountdown(() => undefined);
const clock = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')} min`;
const today = new Date().toLocaleDateString('en-GB', { dateStyle: 'medium' });
</script>

<template>
  <section class="panel p-5 print:border-0 print:p-0">
    <div class="flex flex-wrap items-center justify-between gap-2">
      <h2 class="text-xl font-bold">{{ say('plan.prep') }}: {{ title }}</h2>
      <button type="button" class="button no-print" @click="print">{{ say('report.print') }}</button>
    </div>
    <h3 class="label mt-3">{{ say('plan.needs') }}</h3>
    <ul class="list-disc pl-5">
      <li v-for="n in plan.needs" :key="n.what">
        {{ n.text }} <strong v-if="n.warning" class="text-alarm">{{ n.warning }}</strong>
      </li>
    </ul>
    <template v-for="s in plan.solutions" :key="s.name">
      <h3 class="mt-4 font-bold">{{ s.name }}</h3>
      <p class="font-semibold">{{ s.text }}</p>
      <p v-for="c in s.cautions" :key="c" class="text-alarm">{{ c }}</p>
      <ol class="list-decimal pl-6">
        <li v-for="(step, i) in s.steps" :key="i">
          {{ step.text }}
          <button
            v-if="step.seconds"
            type="button"
            class="figure min-h-8 rounded border border-hair px-2 print:border-0 print:px-0"
            :title="say('plan.startWait', { text: step.text })"
            @click="timing === s.name + i ? stop() : start(s.name + i, step.seconds)"
          >
            {{ timing === s.name + i ? clock(left) : clock(step.seconds) }}
          </button>
        </li>
      </ol>
    </template>
    <h3 class="label mt-4">{{ say('bench.cautions') }}</h3>
    <ul class="list-disc pl-5">
      <li v-for="c in plan.setting.cautions" :key="c">{{ c }}</li>
    </ul>
    <p class="font-semibold">{{ say('bench.localRules') }}</p>
    <h3 class="label mt-4 mb-1">{{ say('plan.labels') }}</h3>
    <ul class="grid gap-2 sm:grid-cols-2 print:grid-cols-2">
      <li v-for="l in plan.labels" :key="l.name" class="break-inside-avoid border border-dashed border-ink p-3">
        <p class="text-lg font-bold">
          {{ l.name }} <span class="font-normal">{{ l.formula }}</span>
        </p>
        <p class="figure text-lg">{{ l.concentration || say('plan.unknown') }}</p>
        <p v-for="h in l.hazards" :key="h" class="text-sm">{{ h }}</p>
        <p class="mt-2 text-sm">{{ say('plan.date') }} {{ today }} · {{ say('plan.maker') }} ________</p>
        <p class="text-xs text-quiet">{{ say('plan.copies', { n: l.copies }) }}</p>
      </li>
    </ul>
  </section>
</template>
