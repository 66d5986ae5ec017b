<script setup lang="ts">
// Two tools of the preparation room: the exact concentration from the mass that
// was weighed, and the best serial dilution with the glass there is.
import { computed, ref } from 'vue';
import { dilute, prepareSolid, type Dilution, type Prepared } from '@/api/planning';
import { useSession } from '@/session/session';
import { say } from '@/words';

const session = useSession();
const units = computed(() => ({
  volume: session.person?.units.volume ?? '',
  concentration: session.person?.units.concentration ?? '',
}));

const solid = ref({ formula: 'KHC8H4O4', concentration: '0.1', volume: '250', weighed: '' });
const prepared = ref<Prepared>();
const serial = ref({ from: '1.0', to: '0.004' });
const ways = ref<Dilution[]>([]);
const problem = ref('');
const number = (text: string) => Number(text.replace(',', '.'));

async function ask<T>(what: Promise<T>): Promise<T | undefined> {
  problem.value = '';
  try {
    return await what;
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e);
    return undefined;
  }
}

async function prepare() {
  const { formula, concentration, volume, weighed } = solid.value;
  const wanted = { formula, concentration: number(concentration), volume: number(volume) };
  prepared.value = await ask(prepareSolid({ ...wanted, ...(weighed && { weighed: number(weighed) }) }));
}

async function find() {
  ways.value = (await ask(dilute(number(serial.value.from), number(serial.value.to))))?.ways ?? [];
}
</script>

<template>
  <section class="sheet no-print grid gap-4 md:grid-cols-2">
    <p v-if="problem" class="font-semibold text-alarm md:col-span-2" role="alert">{{ problem }}</p>
    <form class="grid content-start gap-2" @submit.prevent="prepare">
      <h2 class="font-bold">{{ say('plan.weighed') }}</h2>
      <div class="grid grid-cols-2 gap-2">
        <label v-for="k in ['formula', 'concentration', 'volume', 'weighed'] as const" :key="k" class="label">
          {{ say(`plan.tools.${k}`, units) }}
          <input
            v-model="solid[k]"
            class="field figure"
            autocomplete="off"
            maxlength="40"
            :required="k !== 'weighed'"
          />
        </label>
      </div>
      <button type="submit" class="button justify-self-start">{{ say('plan.tools.go') }}</button>
      <p v-if="prepared" role="status" class="figure">
        <template v-if="prepared.mass">
          {{ prepared.mass.toPrecision(4) }} g ({{ prepared.low?.toPrecision(4) }}–{{ prepared.high?.toPrecision(4) }}
          g)
        </template>
        <strong v-if="prepared.exact"> → {{ prepared.exact.toPrecision(4) }} {{ units.concentration }}</strong>
      </p>
    </form>
    <form class="grid content-start gap-2" @submit.prevent="find">
      <h2 class="font-bold">{{ say('plan.serial') }}</h2>
      <div class="grid grid-cols-2 gap-2">
        <label v-for="k in ['from', 'to'] as const" :key="k" class="label">
          {{ say(`plan.tools.${k}`, units) }}
          <input v-model="serial[k]" class="field figure" autocomplete="off" maxlength="12" required />
        </label>
      </div>
      <button type="submit" class="button justify-self-start">{{ say('plan.tools.go') }}</button>
      <ol class="list-decimal pl-5" aria-live="polite">
        <li v-for="(w, i) in ways" :key="i" :class="i === 0 && 'font-semibold'">
          <span v-for="(s, n) in w.steps" :key="n" class="figure"
            >{{ n ? ', ' : '' }}{{ s.pipette }} → {{ s.flask }} {{ units.volume }}</span
          >:
          <span class="figure"
            >{{ w.gives.toPrecision(3) }} {{ units.concentration }}, ±{{ w.uncertainty.toFixed(2) }} %</span
          >
        </li>
      </ol>
    </form>
  </section>
</template>
