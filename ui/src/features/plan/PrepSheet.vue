<script setup lang="ts">
// What the preparation room needs: quantities, how each solution is made, and
// labels. Printed as it stands.
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import { useCountdown } from '@/notebook/useCountdown';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import { dayOf } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{ plan: Schemas['Plan']; title: string; className?: string; codes?: string[] }>();
// On the screen each once, on paper as many as are needed; of an unknown, as many with
// each code.
const labels = computed(() =>
  props.plan.labels.flatMap((l) => {
    const codes = !l.concentration && props.codes?.length ? props.codes : [''];
    const each = Math.max(1, Math.ceil(l.copies / codes.length));
    return codes.flatMap((code) => Array.from({ length: each }, (_, i) => ({ l, code, again: i > 0 })));
  }),
);
const perPage = ref<8 | 21>(8);
const begins = ref('10:00');
/** The hour at which something is begun; before midnight it is the day before. */
function hour(before: number): string {
  const [h, m] = begins.value.split(':').map(Number) as [number, number];
  const at = h * 60 + m - before;
  const inDay = ((at % 1440) + 1440) % 1440;
  const clock = `${Math.floor(inDay / 60)}:${String(inDay % 60).padStart(2, '0')}`;
  return at < 0 ? say('plan.dayBefore', { at: clock }) : clock;
}
const print = () => window.print();
const { kind: timing, left, start, stop } = useCountdown('timer.preparing', () => undefined);
const two = (n: number) => String(Math.floor(n)).padStart(2, '0');
const clock = (s: number) =>
  s < 3600
    ? `${Math.floor(s / 60)}:${two(s % 60)} min`
    : `${Math.floor(s / 3600)}:${two((s % 3600) / 60)}:${two(s % 60)} h`;
const today = dayOf(new Date());
</script>

<template>
  <section class="sheet">
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
    <template v-if="plan.order.length">
      <h3 class="label mt-3">{{ say('plan.order') }}</h3>
      <p class="no-print flex items-center gap-2">
        <label for="lesson-begins">{{ say('plan.begins') }}</label>
        <input id="lesson-begins" v-model="begins" type="time" required class="field figure max-w-36" />
      </p>
      <ol class="mt-1 grid gap-1">
        <li v-for="(o, i) in plan.order" :key="i" class="grid grid-cols-[8rem_1fr] gap-2">
          <span class="figure font-semibold">{{ hour(o.before) }}</span> {{ o.text }}
        </li>
        <li class="grid grid-cols-[8rem_1fr] gap-2">
          <span class="figure font-semibold">{{ hour(0) }}</span> {{ say('plan.lesson') }}
        </li>
      </ol>
      <p class="mt-1 text-sm text-quiet">{{ plan.orderSaid }}</p>
    </template>
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
            class="figure print-keep min-h-11 rounded border border-hair px-2 print:border-0 print:px-0"
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
    <div class="mt-4 mb-1 flex flex-wrap items-center gap-3">
      <h3 class="label print:hidden">{{ say('plan.labels') }}</h3>
      <ChoiceGroup
        class="no-print"
        :label="say('plan.perPage')"
        :now="String(perPage)"
        :options="['8', '21'].map((value) => ({ value, text: say('plan.perPageOf', { n: value }) }))"
        @choose="perPage = Number($event) as 8 | 21"
      />
    </div>
    <ul
      class="labels grid gap-2 sm:grid-cols-2"
      :class="perPage === 8 ? 'print:grid-cols-2' : 'many print:grid-cols-3'"
    >
      <li
        v-for="({ l, code, again }, i) in labels"
        :key="i"
        class="break-inside-avoid overflow-hidden border border-hair p-3 print:border-0"
        :class="again && 'hidden print:block'"
      >
        <span v-if="code" class="figure float-right text-3xl font-bold" data-test="label-code">{{ code }}</span>
        <p class="font-bold" :class="perPage === 8 && 'text-lg'">
          {{ l.name }} <span class="font-normal">{{ l.formula }}</span>
        </p>
        <p class="figure" :class="perPage === 8 && 'text-lg'">{{ l.concentration || say('plan.unknown') }}</p>
        <p v-if="className" class="text-sm">{{ className }}</p>
        <p v-for="h in l.hazards" :key="h" class="text-sm">{{ h }}</p>
        <p class="mt-2 text-sm">{{ say('plan.date') }} {{ today }} · {{ say('plan.maker') }} ________</p>
        <p class="text-sm text-quiet print:hidden">{{ say('plan.copies', {}, l.copies) }}</p>
      </li>
    </ul>
  </section>
</template>

<style scoped>
/* Sheets of labels, 8 or 21 to a page: the sizes of A4 and Letter without cut lines. */
@media print {
  .labels {
    break-before: page;
    gap: 0;
  }
  .labels > li {
    height: 66mm;
  }
  .labels.many > li {
    height: 37mm;
    padding: 2mm 3mm;
  }
  .labels.many > li p {
    margin: 0;
    font-size: 0.68rem;
    line-height: 1.2;
  }
}
</style>
