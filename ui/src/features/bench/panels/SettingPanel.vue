<script setup lang="ts">
// What is where, the rules and the cautions.
import { ExclamationTriangleIcon } from '@heroicons/vue/24/outline';
import { computed, ref, toRef } from 'vue';
import type { Notebook, Schemas } from '@/api/client';
import OwnValues from '@/features/bench/panels/OwnValues.vue';
import type { Asking } from '@/notebook/asking';
import { useBench } from '@/notebook/useBench';
import { useDoubt } from '@/notebook/useDoubt';
import { settingRows } from '@/shared/setting';
import RoutePicture from '@/shared/RoutePicture.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
const emit = defineEmits<{ ask: [what: Asking] }>();
const bench = useBench(toRef(props, 'notebook'));
const { doubt, write } = useDoubt(() => bench);
const problem = ref('');
const take = async (known: Schemas['Known']) => (problem.value = (await write(bench.known(known), known)) ?? '');
const ownAt = (vessel: number) => props.notebook.sheet.measured.filter((v) => v.vessel === vessel);
const setting = computed(() => props.notebook.sheet.setting);
const rows = computed(() => settingRows(setting.value));
</script>

<template>
  <section class="sheet">
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
    <p v-if="problem" class="mb-1 font-semibold text-alarm" role="alert">{{ problem }}</p>
    <p v-if="doubt" class="mb-1 font-semibold text-rough" role="alert">{{ doubt }} {{ say('bench.doubtAgain') }}</p>
    <p v-if="notebook.offer && notebook.mayWrite" class="mb-3">
      <button type="button" class="button w-full justify-start text-left" @click="take(notebook.offer)">
        {{
          say('bench.useKnown', {
            value: `${notebook.offer.text} ± ${notebook.offer.uncertainty} ${notebook.sheet.units.concentration}`,
            from: notebook.offer.from,
          })
        }}
      </button>
    </p>
    <p v-else-if="notebook.awaits && notebook.mayWrite" class="mb-3" data-test="awaits">
      {{ say('bench.awaits', { from: notebook.awaits }) }}
    </p>
    <template v-if="setting.makes">
      <h2 class="label mb-2">{{ say('bench.makes') }}</h2>
      <RoutePicture :route="setting.makes" class="mb-2" />
      <button
        v-if="setting.standard && notebook.mayWrite"
        type="button"
        class="button mb-3"
        data-test="weigh-standard"
        @click="emit('ask', { what: 'weigh', standard: true })"
      >
        {{ say('bench.weighStandard', { name: setting.standard }) }}
      </button>
    </template>
    <template v-if="!setting.madeOnly">
      <h2 class="label mb-2">{{ say('result.route') }}</h2>
      <RoutePicture v-slot="{ place }" :route="setting.route" class="mb-3">
        <OwnValues :values="ownAt(place)" :may="!!notebook.mayWrite" @ask="emit('ask', $event)" />
      </RoutePicture>
    </template>
    <template v-if="setting.rules.length">
      <h2 class="label mb-1">{{ say('bench.rules') }}</h2>
      <ul class="list-disc pl-5">
        <li v-for="r in setting.rules" :key="r">{{ r }}</li>
      </ul>
    </template>
  </section>
</template>
