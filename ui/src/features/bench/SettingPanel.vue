<script setup lang="ts">
// What is where, the rules and the cautions.
import { ExclamationTriangleIcon } from '@heroicons/vue/24/outline';
import { computed } from 'vue';
import type { Notebook, Schemas } from '@/api/client';
import RoutePicture from '@/shared/RoutePicture.vue';

const props = defineProps<{ notebook: Notebook }>();
defineEmits<{ known: [known: Schemas['Known']] }>();
const setting = computed(() => props.notebook.sheet.setting);
const rows = computed(() => [
  ['bench.burette', setting.value.titrant],
  ['bench.flask', setting.value.analyte],
  ['bench.indicator', setting.value.indicator],
  ['bench.glass', setting.value.glass],
]);
</script>

<template>
  <section class="panel p-3">
    <h2 class="label mb-1 flex items-center gap-1.5 !text-alarm">
      <ExclamationTriangleIcon class="size-5" aria-hidden="true" />{{ $t('bench.cautions') }}
    </h2>
    <ul class="mb-1 list-disc pl-5">
      <li v-for="c in setting.cautions" :key="c">{{ c }}</li>
    </ul>
    <p class="mb-3 font-semibold">{{ $t('bench.localRules') }}</p>
    <h2 class="label mb-1">{{ $t('bench.setting') }}</h2>
    <dl class="mb-3 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
      <template v-for="[label, value] in rows" :key="label">
        <dt class="text-quiet">{{ $t(label!) }}</dt>
        <dd>{{ value }}</dd>
      </template>
    </dl>
    <p v-if="notebook.offer && notebook.mayWrite" class="mb-3">
      <button type="button" class="button w-full !justify-start text-left" @click="$emit('known', notebook.offer!)">
        {{
          $t('bench.useKnown', {
            value: `${notebook.offer.text} ± ${notebook.offer.uncertainty} ${notebook.sheet.units.concentration}`,
            from: notebook.offer.from,
          })
        }}
      </button>
    </p>
    <h2 class="label mb-2">{{ $t('result.route') }}</h2>
    <RoutePicture :route="setting.route" class="mb-3" />
    <h2 class="label mb-1">{{ $t('bench.rules') }}</h2>
    <ul class="list-disc pl-5">
      <li v-for="r in setting.rules" :key="r">{{ r }}</li>
    </ul>
  </section>
</template>
