<script setup lang="ts">
// What is known beforehand, to be searched: substances, indicators, reactions,
// standards, each with its source; and reactions of one's own.
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { useAddReaction, useCatalogue, useDropReaction } from '@/api/queries';
import Trouble from '@/shared/Trouble.vue';
import { useSession } from '@/session/session';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const session = useSession();

const { data, error, refetch } = useCatalogue();
const add = useAddReaction();
const drop = useDropReaction();
const kinds = ['substances', 'reactions', 'indicators', 'standards'] as const;
const kind = ref<(typeof kinds)[number]>('substances');
const route = useRoute();
const wanted = ref(String(route.query.find ?? ''));
watch(
  () => route.query.find,
  (find) => find !== undefined && (wanted.value = String(find)),
);
const name = ref('');
const equation = ref('');

// Digits are found whether written as subscripts or not.
const plain = (s: string) =>
  s
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[·*.\s]/g, '');
const fits = (thing: unknown) => plain(JSON.stringify(thing)).includes(plain(wanted.value));
const substances = computed(() => data.value?.substances.filter(fits) ?? []);
const indicators = computed(() => data.value?.indicators.filter(fits) ?? []);
const reactions = computed(() => data.value?.reactions.filter(fits) ?? []);
const own = computed(() => data.value?.own.filter(fits) ?? []);
const standards = computed(() => data.value?.standards.filter(fits) ?? []);
const counts = computed(() => ({
  substances: substances.value.length,
  reactions: reactions.value.length + own.value.length,
  indicators: indicators.value.length,
  standards: standards.value.length,
}));

async function keep() {
  try {
    await add.mutateAsync({ name: name.value, equation: equation.value });
    name.value = equation.value = '';
  } catch {
    // shown below; what was typed stays
  }
}
</script>

<template>
  <Trouble v-if="error && !data" :error="error" @again="refetch()" />
  <div v-else-if="data" class="grid grid-cols-[minmax(0,1fr)] gap-4">
    <div class="flex flex-wrap items-end gap-4">
      <h1 class="text-2xl font-bold">{{ say('catalogue.title') }}</h1>
      <div class="grow sm:max-w-md">
        <label for="wanted" class="label">{{ say('catalogue.search') }}</label>
        <input id="wanted" v-model="wanted" type="search" class="field" autocomplete="off" maxlength="80" />
      </div>
    </div>
    <div class="flex flex-wrap gap-1.5" role="group" :aria-label="say('catalogue.title')">
      <button
        v-for="k in kinds"
        :key="k"
        type="button"
        class="button px-3"
        :class="kind === k && 'border-accent bg-tint'"
        :aria-pressed="kind === k"
        @click="kind = k"
      >
        {{ say(`catalogue.${k}`) }} <span class="figure font-normal text-quiet">{{ counts[k] }}</span>
      </button>
    </div>
    <section class="sheet min-w-0 [overflow-wrap:anywhere]">
      <p v-if="counts[kind] === 0" class="text-quiet">{{ say('catalogue.none') }}</p>
      <table v-if="kind === 'substances' && substances.length" class="w-full border-collapse text-left">
        <thead>
          <tr class="border-b-2 border-quiet text-sm">
            <th
              v-for="h in ['name', 'formula', 'mass'] as const"
              :key="h"
              scope="col"
              class="py-1.5 pr-3 last:pr-0 last:text-right"
            >
              {{ say(`catalogue.${h}`) }}
            </th>
          </tr>
        </thead>
        <tbody>
          <template v-for="s in substances" :key="s.id">
            <tr class="align-top" :title="s.source">
              <th scope="row" class="py-1.5 pr-3 font-semibold">
                {{ s.name }}
                <span v-if="s.also" class="block text-sm font-normal text-quiet">{{ s.also }}</span>
              </th>
              <td class="py-1.5 pr-3">
                <span :class="s.written.length < 16 && 'whitespace-nowrap'">{{ s.written }}</span>
                <span v-if="s.pKa" class="block text-sm text-quiet"
                  >pK<sub>a</sub> <span class="figure">{{ s.pKa.join(', ') }}</span></span
                >
              </td>
              <td class="figure py-1.5 text-right whitespace-nowrap">{{ s.molarMass.toFixed(2) }}</td>
            </tr>
            <tr class="border-b border-hair">
              <td colspan="3" class="pb-2 text-sm">
                <span v-for="c in s.cautions" :key="c.from + c.text" class="block">
                  <span v-if="c.from !== '0'" class="figure text-quiet"
                    >≥ {{ c.from }} {{ session.person?.units.concentration }}: </span
                  >{{ c.text }}
                </span>
              </td>
            </tr>
          </template>
        </tbody>
      </table>
      <template v-if="kind === 'reactions'">
        <ul class="mb-4 grid gap-2">
          <li v-for="r in own" :key="r.id" class="flex items-center gap-3 rounded-glass border border-accent p-3">
            <div class="grow">
              <p class="font-semibold">
                {{ r.name }} <span class="text-sm font-normal">({{ say('catalogue.mine') }})</span>
              </p>
              <p class="text-lg">{{ r.written }}</p>
            </div>
            <button type="button" class="button" @click="drop.mutate(r.id)">{{ say('catalogue.drop') }}</button>
          </li>
          <li v-for="r in reactions" :key="r.id" class="rounded-glass border border-hair p-3" :title="r.source">
            <p class="font-semibold">{{ r.name }}</p>
            <p class="text-lg">{{ r.written }}</p>
            <p v-if="r.note" class="text-sm text-quiet">{{ r.note }}</p>
          </li>
        </ul>
        <form class="grid max-w-2xl gap-2 border-t border-hair pt-3" @submit.prevent="keep">
          <h2 class="font-bold">{{ say('catalogue.add') }}</h2>
          <p class="text-sm text-quiet">{{ say('catalogue.addHow') }}</p>
          <label class="label" for="own-name">{{ say('catalogue.name') }}</label>
          <input id="own-name" v-model="name" class="field" required maxlength="120" autocomplete="off" />
          <label class="label" for="own-equation">{{ say('catalogue.equation') }}</label>
          <input
            id="own-equation"
            v-model="equation"
            class="field figure"
            required
            maxlength="600"
            placeholder="H3PO4 + NaOH -> Na2HPO4 + H2O"
            autocomplete="off"
          />
          <p v-if="add.error.value" class="font-semibold text-alarm" role="alert">{{ add.error.value.message }}</p>
          <button type="submit" class="button-main justify-self-start" :disabled="add.isPending.value">
            {{ say('catalogue.keep') }}
          </button>
        </form>
      </template>
      <ul v-if="kind === 'indicators'" class="grid gap-2 md:grid-cols-2">
        <li v-for="i in indicators" :key="i.id" class="rounded-glass border border-hair p-3" :title="i.source">
          <p class="font-semibold">{{ i.name }}</p>
          <p v-if="i.low">
            pH <span class="figure">{{ i.low }}–{{ i.high }}</span
            >, {{ i.acidText }} – {{ i.alkalineText }}
          </p>
          <p v-else-if="i.potential">
            <span class="figure">{{ i.potential }}</span> V, {{ i.acidText }} – {{ i.alkalineText }}
          </p>
          <p class="text-sm text-quiet">
            {{ say('catalogue.acidIn') }}: {{ i.endAcid }}. {{ say('catalogue.alkaliIn') }}: {{ i.endAlkali }}.
          </p>
          <p v-if="i.when" class="text-sm">{{ i.when }}</p>
        </li>
      </ul>
      <ul v-if="kind === 'standards'" class="grid gap-2 md:grid-cols-2">
        <li v-for="s in standards" :key="s.substance" class="rounded-glass border border-hair p-3" :title="s.source">
          <p class="font-semibold">
            {{ s.name }}
            <span class="text-sm font-normal text-quiet">{{ say(`catalogue.${s.kind}`) }}</span>
          </p>
          <p class="text-sm">{{ say('catalogue.use') }}: {{ s.use }}</p>
          <p class="text-sm">{{ say('catalogue.drying') }}: {{ s.drying }}</p>
          <p class="text-sm">
            {{ say('catalogue.purity') }}: <span class="figure">{{ s.purity[0] }} ± {{ s.purity[1] }}</span>
          </p>
          <p class="text-sm">{{ s.handling }} {{ say('catalogue.life') }}: {{ s.shelfLife }}.</p>
        </li>
      </ul>
    </section>
    <p class="text-sm text-quiet">{{ say('catalogue.sources') }} {{ say('bench.localRules') }}</p>
  </div>
  <Waiting v-else />
</template>
