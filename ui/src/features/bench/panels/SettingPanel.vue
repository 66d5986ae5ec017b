<script setup lang="ts">
// What is where, the rules and the cautions.
import { ExclamationTriangleIcon } from '@heroicons/vue/24/outline';
import { computed } from 'vue';
import type { Notebook, Schemas } from '@/api/client';
import { settingRows } from '@/shared/setting';
import RoutePicture from '@/shared/RoutePicture.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
defineEmits<{ known: [known: Schemas['Known']] }>();
const setting = computed(() => props.notebook.sheet.setting);
const rows = computed(() => settingRows(setting.value));
</script>

<template>
  <section class="panel p-3">
    <h2 class="label mb-1 flex items-center gap-1.5 text-alarm">
      <ExclamationTriangleIcon class="size-5" aria-hidden="true" />{{ say('bench.cautions') }}
    </h2>
    <ul class="mb-1 list-disc pl-5">
      <li v-for="c in setting.cautions" :key="c">{{ c }}</li>
    </ul>
    <p class="mb-3 font-semibold">{{ say('bench.localRules') }}</p>
    <h2 class="label mb-1">{{ say('bench.setting') }}</h2>
    <dl class="mb-3 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
      <template v-for="[label, value] in rows" :key="label">
        <dt class="text-quiet">{{ say(label) }}</dt>
        <dd>{{ value }}</dd>
      </template>
    </dl>
    <p v-if="notebook.offer && notebook.mayWrite" class="mb-3">
      <button type="button" class="button w-full justify-start text-left" @click="$emit('known', notebook.offer!)">
        {{
          say('bench.useKnown', {
            value: `${notebook.offer.text} ± ${notebook.offer.uncertainty} ${notebook.sheet.units.concentration}`,
            from: notebook.offer.from,
          })
        }}
      </button>
    </p>
    <h2 class="label mb-2">{{ say('result.route') }}</h2>
    <RoutePicture :route="setting.route" class="mb-3" />
    <h2 class="label mb-1">{{ say('bench.rules') }}</h2>
    <ul class="list-disc pl-5">
      <li v-for="r in setting.rules" :key="r">{{ r }}</li>
    </ul>
  </section>
</template>
