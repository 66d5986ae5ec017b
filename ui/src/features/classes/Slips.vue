<script setup lang="ts">
// Slips with one-time passwords, eight to a page. They are on this page only, and gone
// when it is left.
import { computed } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import type { Slip } from '@/api/classes';
import { say } from '@/words';

const props = defineProps<{ className: string; slips: Slip[] }>();
defineEmits<{ done: [] }>();
const pages = computed(() => {
  const out: Slip[][] = [];
  for (let i = 0; i < props.slips.length; i += 8) out.push(props.slips.slice(i, i + 8));
  return out;
});
const address = location.origin;
onBeforeRouteLeave(() => window.confirm(say('slips.leave')));
const print = () => window.print();
</script>

<template>
  <section>
    <div class="no-print mb-4 flex flex-wrap items-center justify-between gap-3">
      <div>
        <h1 class="text-2xl font-bold">{{ say('slips.title', {}, slips.length) }}</h1>
        <p class="max-w-prose text-quiet">{{ say('slips.text') }}</p>
      </div>
      <div class="flex gap-2">
        <button type="button" class="button-main" @click="print">{{ say('slips.print') }}</button>
        <button type="button" class="button" @click="$emit('done')">{{ say('slips.done') }}</button>
      </div>
    </div>
    <div v-for="(page, i) in pages" :key="i" class="slips mb-4 grid gap-3 sm:grid-cols-2 print:mb-0 print:grid-cols-2">
      <article v-for="s in page" :key="s.username" class="slip panel p-4" data-test="slip">
        <p class="text-sm text-quiet">{{ className }}</p>
        <p class="text-lg font-bold">{{ s.name }}</p>
        <dl class="mt-1 grid grid-cols-[auto_1fr] gap-x-3">
          <!-- On paper an address has a line of its own, rather than two pieces. -->
          <div class="contents print:col-span-2 print:flex print:flex-wrap print:gap-x-3">
            <dt class="text-quiet">{{ say('slips.address') }}</dt>
            <dd class="break-all">{{ address }}</dd>
          </div>
          <dt class="text-quiet">{{ say('person.username') }}</dt>
          <dd class="figure font-semibold">{{ s.username }}</dd>
          <dt class="text-quiet">{{ say('slips.password') }}</dt>
          <dd class="figure font-semibold">{{ s.password }}</dd>
        </dl>
        <p class="mt-1 text-sm">{{ say('slips.change') }}</p>
      </article>
    </div>
  </section>
</template>

<style scoped>
@media print {
  .slips {
    break-after: page;
  }
  .slip {
    break-inside: avoid;
    min-height: 62mm;
  }
}
</style>
