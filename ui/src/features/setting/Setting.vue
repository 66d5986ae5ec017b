<script setup lang="ts">
// How a practical is set to a class: when, which unknowns, who has which, and under
// which revision each notebook is.
import { computed, ref, watch } from 'vue';
import { onBeforeRouteLeave, useRouter } from 'vue-router';
import { useEventListener } from '@vueuse/core';
import { libraryPractical, setToClass } from '@/api/planning';
import { useBegin } from '@/notebook/notebooks';
import { deal, paired, useSettings, useSettingsChange, type Settings } from '@/api/settings';
import SettingSeats from '@/features/setting/SettingSeats.vue';
import SettingUnknowns, { type Unknown } from '@/features/setting/SettingUnknowns.vue';
import { whenLocal, whenTyped } from '@/features/setting/times';
import { useSession } from '@/session/session';
import Trouble from '@/shared/Trouble.vue';
import TextField from '@/shared/TextField.vue';
import Waiting from '@/shared/Waiting.vue';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string }>();
const router = useRouter();
const where = { class: props.classId, practical: props.practical };
const { data: now, error, refetch } = useSettings(where);
const { save, move, unset } = useSettingsChange(where);
const begin = useBegin();

const times = ref({ opens: '', due: '', late: '' });
const together = ref(false); // the times are those of its whole sequence
const unknowns = ref<Unknown[]>([]);
const deals = ref<Record<string, string>>({});
const pairing = ref<Settings['pairing']>('');
const pairs = ref<Record<string, string>>({});
const trouble = ref('');
const sure = ref(false);
const typed = computed(() =>
  JSON.stringify([times.value, together.value, unknowns.value, deals.value, pairing.value, pairs.value]),
);
const loaded = ref('');
const changed = computed(() => loaded.value !== '' && typed.value !== loaded.value);

function show(s: Settings) {
  times.value = { opens: whenLocal(s.times.opens), due: whenLocal(s.times.due), late: whenLocal(s.times.late) };
  unknowns.value = s.unknowns.map((u) => ({ code: u.code, value: u.value ?? '' }));
  deals.value = Object.fromEntries(s.seats.map((seat) => [seat.person, seat.code]));
  pairing.value = s.pairing;
  together.value = false;
  pairs.value = Object.fromEntries(s.seats.map((seat) => [seat.person, seat.partner ?? '']));
  loaded.value = typed.value;
}
async function pair(person: string, partner: string) {
  trouble.value = '';
  await paired(where, pairs.value, person, partner).then(
    (now) => (pairs.value = { ...Object.fromEntries(Object.keys(pairs.value).map((p) => [p, ''])), ...now }),
    (e: Error) => (trouble.value = e.message),
  );
}
watch(now, (s) => s && !changed.value && show(s), { immediate: true });

const codes = computed(() => unknowns.value.map((u) => u.code.trim()).filter(Boolean));
async function dealt(how: 'in-turn' | 'at-random', seed: number) {
  trouble.value = '';
  await deal(where, codes.value, how, seed).then(
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
      together: together.value || undefined,
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
async function end() {
  await unset.mutateAsync().then(
    () => router.push({ name: 'class', params: { classId: props.classId } }),
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
  <div v-else-if="now" class="desk mx-auto grid max-w-4xl gap-4">
    <div>
      <h2 class="sr-only">{{ say('title.setting') }}</h2>
      <p class="text-quiet">
        {{ say('setting.revision', { n: now.revision }) }} {{ say('setting.begun', {}, now.begun) }}
        {{ say(`setting.withholds.${now.withholds}`) }} {{ now.hides ? say('setting.hides') : '' }}
      </p>
    </div>
    <p v-if="!now.assigned" class="sheet font-semibold text-rough">{{ say('setting.ended') }}</p>
    <fieldset class="sheet grid gap-3 sm:grid-cols-3" :disabled="!now.mayManage">
      <legend class="sr-only">{{ say('setting.times') }}</legend>
      <h2 class="text-lg font-bold sm:col-span-3" aria-hidden="true">{{ say('setting.times') }}</h2>
      <div v-for="t in ['opens', 'due', 'late'] as const" :key="t">
        <TextField v-model="times[t]" :name="`time-${t}`" :label="say(`setting.${t}`)" type="datetime-local" />
        <!-- As dates are written everywhere; the field itself writes them as the device does. -->
        <p class="figure min-h-6 text-sm text-quiet">{{ times[t] && whenIs(times[t]!) }}</p>
      </div>
      <label v-if="now.sequence" class="flex min-h-11 items-center gap-2 sm:col-span-3">
        <input id="together" v-model="together" type="checkbox" class="size-5 accent-accent" />{{
          say('setting.together', { titles: now.sequence.join(', ') })
        }}
      </label>
    </fieldset>

    <section class="sheet">
      <h2 class="mb-1 text-lg font-bold">{{ say('setting.reference') }}</h2>
      <p class="mb-2 text-quiet">{{ say('setting.referenceText') }}</p>
      <p v-if="now.reference" class="mb-2">
        {{ say('setting.referenceBy', { name: now.reference.by }) }}
        <strong v-if="now.reference.answer" class="figure">{{ now.reference.answer }}</strong>
        <span v-else class="text-quiet">{{ say('setting.referenceNone') }}</span>
      </p>
      <button type="button" class="button" @click="reference">{{ say('setting.referenceGo') }}</button>
    </section>

    <SettingUnknowns
      v-model:unknowns="unknowns"
      :now="now"
      :codes="codes"
      @gone="(code) => Object.keys(deals).forEach((p) => deals[p] === code && (deals[p] = ''))"
      @deal="dealt"
    />
    <SettingSeats
      v-if="now.seats.length"
      v-model:pairing="pairing"
      v-model:deals="deals"
      :now="now"
      :codes="codes"
      :pairs="pairs"
      @pair="pair"
      @move="move.mutate"
    />
    <form
      v-if="now.mayManage && now.assigned && others.length"
      class="sheet flex flex-wrap items-end gap-2"
      @submit.prevent="also"
    >
      <div class="grow">
        <label class="label" for="also-in">{{ say('setting.also') }}</label>
        <select id="also-in" v-model="other" class="field" required>
          <option v-for="c in others" :key="c.class" :value="c.class">{{ c.name }} {{ c.term }}</option>
        </select>
      </div>
      <button type="submit" class="button">{{ say('setting.alsoGo') }}</button>
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
  <Waiting v-else />
</template>
