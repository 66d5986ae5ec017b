<script setup lang="ts">
// How a practical is set to a class: when, which unknowns, who has which, and under
// which revision each notebook is.
import { computed, ref, watch } from 'vue';
import { onBeforeRouteLeave, useRouter } from 'vue-router';
import { useEventListener } from '@vueuse/core';
import { libraryPractical, setToClass } from '@/api/planning';
import { useBegin } from '@/notebook/notebooks';
import { deal, useSettings, useSettingsChange, type Settings } from '@/api/settings';
import { whenLocal, whenTyped } from '@/features/setting/times';
import { useSession } from '@/session/session';
import Trouble from '@/shared/Trouble.vue';
import TextField from '@/shared/TextField.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string }>();
const router = useRouter();
const where = { class: props.classId, practical: props.practical };
const { data: now, error, refetch } = useSettings(where);
const { save, move, unset } = useSettingsChange(where);
const begin = useBegin();

type Unknown = { code: string; value: string };
const times = ref({ opens: '', due: '', late: '' });
const unknowns = ref<Unknown[]>([]);
const deals = ref<Record<string, string>>({});
const pairing = ref<Settings['pairing']>('');
const pairs = ref<Record<string, string>>({});
const seed = ref(1);
const trouble = ref('');
const sure = ref(false);
const typed = computed(() => JSON.stringify([times.value, unknowns.value, deals.value, pairing.value, pairs.value]));
const loaded = ref('');
const changed = computed(() => loaded.value !== '' && typed.value !== loaded.value);

function show(s: Settings) {
  times.value = { opens: whenLocal(s.times.opens), due: whenLocal(s.times.due), late: whenLocal(s.times.late) };
  unknowns.value = s.unknowns.map((u) => ({ code: u.code, value: u.value ?? '' }));
  deals.value = Object.fromEntries(s.seats.map((seat) => [seat.person, seat.code]));
  pairing.value = s.pairing;
  pairs.value = Object.fromEntries(s.seats.map((seat) => [seat.person, seat.partner ?? '']));
  loaded.value = typed.value;
}
/** Whoever is taken as a partner takes the other one, and leaves whom they had. */
function pair(person: string, partner: string) {
  const now = { ...pairs.value };
  for (const one of [person, partner]) if (one && now[one]) now[now[one]!] = '';
  now[person] = partner;
  if (partner) now[partner] = person;
  pairs.value = now;
}
watch(now, (s) => s && !changed.value && show(s), { immediate: true });

const behind = computed(
  () => now.value?.seats.filter((s) => s.notebook && s.revision !== now.value!.revision && now.value!.assigned) ?? [],
);
const codes = computed(() => unknowns.value.map((u) => u.code.trim()).filter(Boolean));
const next = () => String.fromCharCode(65 + (unknowns.value.length % 26));
const add = () => unknowns.value.push({ code: next(), value: '' });
function without(i: number) {
  const [gone] = unknowns.value.splice(i, 1);
  for (const [person, code] of Object.entries(deals.value)) if (code === gone?.code) deals.value[person] = '';
}

async function dealt(how: 'in-turn' | 'at-random') {
  trouble.value = '';
  await deal(where, codes.value, how, seed.value).then(
    (given) => (deals.value = { ...Object.fromEntries(Object.keys(deals.value).map((p) => [p, ''])), ...given }),
    (e: Error) => (trouble.value = e.message),
  );
}
async function keep() {
  const kept = await save
    .mutateAsync({
      times: {
        opens: whenTyped(times.value.opens),
        due: whenTyped(times.value.due),
        late: whenTyped(times.value.late),
      },
      unknowns: unknowns.value.map((u) => ({
        code: u.code,
        value: u.value.replace(',', '.').trim() || undefined,
      })),
      deals: Object.fromEntries(Object.entries(deals.value).filter(([, code]) => code)),
      pairing: pairing.value,
      pairs:
        pairing.value === 'own'
          ? Object.fromEntries(Object.entries(pairs.value).filter(([, other]) => other))
          : undefined,
    })
    .catch(() => undefined); // said below
  if (kept) show(kept);
}
async function reference() {
  const notebook = await begin.mutateAsync(where).catch(() => undefined);
  if (notebook) await router.push({ name: 'bench', params: { id: notebook.id } });
}
const take = (u: Unknown) => (u.value = String(now.value?.reference?.value ?? ''));
async function end() {
  await unset.mutateAsync().then(
    () => router.push({ name: 'shelf' }),
    () => undefined, // said below
  );
}
// The same practical for another class, under its revision.
const session = useSession();
const others = computed(
  () =>
    session.person?.classes.filter((c) => c.role === 'instructor' && !c.archived && c.class !== props.classId) ?? [],
);
const other = ref('');
const alsoIn = ref('');
async function also() {
  trouble.value = alsoIn.value = '';
  try {
    await setToClass(other.value, await libraryPractical(props.practical, now.value!.revision));
    alsoIn.value = others.value.find((c) => c.class === other.value)?.name ?? '';
  } catch (e) {
    trouble.value = (e as Error).message;
  }
}

// What is not kept is not lost by an accident.
onBeforeRouteLeave(() => !changed.value || window.confirm(say('setting.leave')));
useEventListener(window, 'beforeunload', (e) => {
  if (changed.value) e.preventDefault();
});
const problem = computed(
  () =>
    trouble.value ||
    [save, move, unset].map((m) => m.error.value?.message).find(Boolean) ||
    begin.error.value?.message ||
    '',
);
</script>

<template>
  <Trouble v-if="error && !now" :error="error" @again="refetch()" />
  <div v-else-if="now" class="mx-auto grid max-w-4xl gap-4">
    <div>
      <p>
        <RouterLink :to="{ name: 'shelf' }" class="inline-flex min-h-11 items-center underline">{{
          say('app.shelf')
        }}</RouterLink>
      </p>
      <h1 class="text-2xl font-bold">{{ now.title }}</h1>
      <p class="text-quiet">
        {{ say('setting.revision', { n: now.revision }) }} {{ say('setting.begun', {}, now.begun) }}
        {{ say(`setting.withholds.${now.withholds}`) }} {{ now.hides ? say('setting.hides') : '' }}
      </p>
    </div>
    <p v-if="!now.assigned" class="panel p-4 font-semibold text-rough">{{ say('setting.ended') }}</p>
    <fieldset class="panel grid gap-3 p-4 sm:grid-cols-3" :disabled="!now.mayManage">
      <legend class="sr-only">{{ say('setting.times') }}</legend>
      <h2 class="text-lg font-bold sm:col-span-3" aria-hidden="true">{{ say('setting.times') }}</h2>
      <TextField
        v-for="t in ['opens', 'due', 'late'] as const"
        :key="t"
        v-model="times[t]"
        :name="`time-${t}`"
        :label="say(`setting.${t}`)"
        type="datetime-local"
      />
    </fieldset>

    <section class="panel p-4">
      <h2 class="mb-1 text-lg font-bold">{{ say('setting.reference') }}</h2>
      <p class="mb-2 text-quiet">{{ say('setting.referenceText') }}</p>
      <p v-if="now.reference" class="mb-2">
        {{ say('setting.referenceBy', { name: now.reference.by }) }}
        <strong v-if="now.reference.answer" class="figure">{{ now.reference.answer }}</strong>
        <span v-else class="text-quiet">{{ say('setting.referenceNone') }}</span>
      </p>
      <button type="button" class="button" @click="reference">{{ say('setting.referenceGo') }}</button>
    </section>

    <fieldset class="panel p-4" :disabled="!now.mayManage">
      <legend class="sr-only">{{ say('setting.unknowns') }}</legend>
      <h2 class="mb-1 text-lg font-bold" aria-hidden="true">{{ say('setting.unknowns') }}</h2>
      <p class="mb-2 text-quiet">{{ say('setting.unknownsText') }}</p>
      <ul class="grid gap-2">
        <li v-for="(u, i) in unknowns" :key="i" class="flex flex-wrap items-end gap-2">
          <TextField
            v-model="u.code"
            :name="`unknown-code-${i}`"
            :label="say('setting.code')"
            class="w-24"
            figure
            maxlength="8"
          />
          <TextField
            v-model="u.value"
            :name="`unknown-value-${i}`"
            :label="say('setting.value', { unit: now.unit })"
            class="w-52"
            figure
            inputmode="decimal"
            maxlength="20"
          />
          <button v-if="now.reference?.value" type="button" class="button" @click="take(u)">
            {{ say('setting.takeReference') }}
          </button>
          <button
            type="button"
            class="button"
            :aria-label="say('setting.without', { code: u.code })"
            @click="without(i)"
          >
            ×
          </button>
        </li>
      </ul>
      <div class="mt-2 flex flex-wrap items-end gap-2">
        <button type="button" class="button" @click="add">{{ say('setting.add') }}</button>
        <template v-if="codes.length && now.seats.length">
          <button type="button" class="button" @click="dealt('in-turn')">{{ say('setting.inTurn') }}</button>
          <button type="button" class="button" @click="dealt('at-random')">{{ say('setting.atRandom') }}</button>
          <div class="w-28">
            <label class="label" for="deal-seed">{{ say('setting.seed') }}</label>
            <input id="deal-seed" v-model.number="seed" type="number" min="0" class="field figure" />
          </div>
        </template>
      </div>
    </fieldset>

    <section v-if="now.seats.length" class="panel overflow-x-auto p-4">
      <div class="mb-2 flex flex-wrap items-center justify-between gap-2">
        <h2 class="text-lg font-bold">{{ say('role.students') }}</h2>
        <label class="flex items-center gap-2"
          >{{ say('setting.pairing') }}
          <select v-model="pairing" class="field min-h-11 w-auto" data-test="pairing" :disabled="!now.mayManage">
            <option value="">{{ say('setting.pairing.class') }}</option>
            <option value="alone">{{ say('setting.pairing.alone') }}</option>
            <option value="own">{{ say('setting.pairing.own') }}</option>
          </select></label
        >
        <button v-if="behind.length && now.mayManage" type="button" class="button" @click="move.mutate([])">
          {{ say('setting.moveAll', { n: now.revision }, behind.length) }}
        </button>
      </div>
      <table class="w-full text-left">
        <thead class="text-sm text-quiet">
          <tr>
            <th class="py-1 pr-3">{{ say('person.name') }}</th>
            <th class="py-1 pr-3">{{ say('setting.code') }}</th>
            <th class="py-1 pr-3">{{ say('class.partner') }}</th>
            <th class="py-1 pr-3">{{ say('setting.notebook') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in now.seats" :key="s.person" class="border-t border-hair">
            <td class="py-1 pr-3 font-semibold">{{ s.name }}</td>
            <td class="py-1 pr-3">
              <select
                v-model="deals[s.person]"
                class="field min-h-11 max-w-28"
                :aria-label="say('setting.codeOf', { name: s.name })"
                :disabled="!now.mayManage"
              >
                <option value="">–</option>
                <option v-for="c in codes" :key="c" :value="c">{{ c }}</option>
              </select>
            </td>
            <td class="py-1 pr-3">
              <select
                v-if="pairing === 'own'"
                class="field min-h-11 max-w-48"
                :aria-label="say('setting.partnerOf', { name: s.name })"
                :value="pairs[s.person] ?? ''"
                :disabled="!now.mayManage"
                @change="pair(s.person, ($event.target as HTMLSelectElement).value)"
              >
                <option value="">–</option>
                <option v-for="o in now.seats.filter((x) => x.person !== s.person)" :key="o.person" :value="o.person">
                  {{ o.name }}
                </option>
              </select>
              <template v-else-if="pairing === '' && now.pairing === ''">{{
                now.seats.find((o) => o.person === s.partner)?.name
              }}</template>
            </td>
            <td class="py-1 pr-3">
              <RouterLink
                v-if="s.notebook"
                :to="{ name: 'bench', params: { id: s.notebook } }"
                class="inline-flex min-h-11 items-center underline"
                >{{ say('setting.under', { n: s.revision }) }}</RouterLink
              >
              <button
                v-if="s.notebook && s.revision !== now.revision && now.assigned && now.mayManage"
                type="button"
                class="min-h-11 px-2 font-semibold underline"
                @click="move.mutate([s.person])"
              >
                {{ say('setting.moveOne', { n: now.revision }) }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </section>

    <form
      v-if="now.mayManage && now.assigned && others.length"
      class="panel flex flex-wrap items-end gap-2 p-4"
      @submit.prevent="also"
    >
      <div class="grow">
        <label class="label" for="also-in">{{ say('setting.also') }}</label>
        <select id="also-in" v-model="other" class="field" required>
          <option v-for="c in others" :key="c.class" :value="c.class">{{ c.name }} {{ c.term }}</option>
        </select>
      </div>
      <button type="submit" class="button">{{ say('plan.setToClass') }}</button>
      <p v-if="alsoIn" role="status" class="w-full text-agree">{{ say('setting.alsoIn', { name: alsoIn }) }}</p>
    </form>

    <div v-if="now.mayManage" class="keep-bar panel sticky bottom-0 flex flex-wrap items-center gap-3 p-3">
      <button type="button" class="button-main" :disabled="!changed || save.isPending.value" @click="keep">
        {{ say('setting.keep') }}
      </button>
      <p v-if="problem" role="alert" class="font-semibold text-alarm">{{ problem }}</p>
      <p v-else-if="!changed && save.isSuccess.value" role="status" class="text-agree">{{ say('account.kept') }}</p>
      <p v-else-if="changed" role="status">{{ say('setting.changed') }}</p>
      <template v-if="now.assigned">
        <button v-if="!sure" type="button" class="button ml-auto" @click="sure = true">
          {{ say('setting.unset') }}
        </button>
        <button v-else type="button" class="button ml-auto text-alarm" @click="end">
          {{ say('setting.unsetGo') }}
        </button>
      </template>
    </div>
  </div>
  <p v-else class="p-6 text-quiet" role="status">{{ say('common.loading') }}</p>
</template>
