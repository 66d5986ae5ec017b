<script setup lang="ts">
// Everyone, for an administrator: who may do what, new passwords, taking people out.
import GlassPanel from '@/features/plan/GlassPanel.vue';
import NormsPanel from '@/features/plan/NormsPanel.vue';
import { computed, ref } from 'vue';
import { useAccountChange, useAccounts, type Account, type Slip } from '@/api/classes';
import ActLog from '@/features/classes/ActLog.vue';
import Slips from '@/features/classes/Slips.vue';
import AppDialog from '@/shared/AppDialog.vue';
import SelectField from '@/shared/SelectField.vue';
import Trouble from '@/shared/Trouble.vue';
import { useSession } from '@/session/session';
import TextField from '@/shared/TextField.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const session = useSession();
const { data: people, error, refetch } = useAccounts();
const change = useAccountChange();
const slips = ref<Slip[]>([]);
const search = ref('');
const name = ref('');
const standing = ref<Account['standing']>('instructor');
const one = ref<Account>();
const sure = ref(false);

const standings = (['', 'instructor', 'administrator'] as const).map((value) => ({
  value,
  text: say(`standing.${value || 'none'}`),
}));
const shown = computed(() => {
  const text = search.value.trim().toLowerCase();
  return people.value?.filter((p) => `${p.name} ${p.username}`.toLowerCase().includes(text)) ?? [];
});
const classesOf = (p: Account) => p.classes.map((m) => `${m.name} (${say(`role.${m.role}`)})`).join(', ');
const trouble = computed(
  () => change.standing.error.value ?? change.password.error.value ?? change.takeOut.error.value ?? undefined,
);

const quietly = <T,>(asked: Promise<T>) => asked.catch(() => undefined); // said on the page
async function add() {
  const slip = await quietly(change.add.mutateAsync({ name: name.value, standing: standing.value }));
  if (!slip) return;
  slips.value = [slip];
  name.value = '';
}
async function password(p: Account) {
  const slip = await quietly(change.password.mutateAsync(p.id));
  if (!slip) return;
  one.value = undefined;
  slips.value = [slip];
}
async function takeOut(p: Account) {
  await change.takeOut.mutateAsync(p.id).then(
    () => (one.value = undefined),
    () => undefined,
  );
}
function choose(p: Account) {
  one.value = p;
  sure.value = false;
  for (const m of [change.standing, change.password, change.takeOut]) m.reset();
}
</script>

<template>
  <Trouble v-if="error && !people" :error="error" @again="refetch()" />
  <Slips v-else-if="people && slips.length" class-name="Exact Flask" :slips="slips" @done="slips = []" />
  <div v-else-if="people" class="mx-auto grid max-w-5xl gap-5">
    <div>
      <p>
        <RouterLink :to="{ name: 'classes' }" class="link">{{ say('classes.title') }}</RouterLink>
      </p>
      <h1 class="text-2xl font-bold">{{ say('people.title') }}</h1>
    </div>
    <form class="sheet grid items-end gap-3 sm:grid-cols-[1fr_1fr_auto]" @submit.prevent="add">
      <TextField v-model="name" name="account-name" :label="say('person.name')" required maxlength="80" />
      <SelectField v-model="standing" :label="say('people.standing')" :options="standings" />
      <button type="submit" class="button-main" :disabled="change.add.isPending.value">{{ say('people.add') }}</button>
      <p v-if="change.add.error.value" role="alert" class="text-alarm sm:col-span-3">
        {{ change.add.error.value.message }}
      </p>
    </form>
    <NormsPanel />
    <GlassPanel />
    <section class="sheet overflow-x-auto">
      <label class="label block" for="people-search">{{ say('people.search') }}</label>
      <input id="people-search" v-model="search" type="search" class="field mb-2 max-w-sm" />
      <table class="w-full text-left">
        <thead class="text-sm text-quiet">
          <tr>
            <th class="py-1 pr-3">{{ say('person.name') }}</th>
            <th class="py-1 pr-3 max-sm:hidden">{{ say('person.username') }}</th>
            <th class="py-1 pr-3">{{ say('people.standing') }}</th>
            <th class="py-1 pr-3 max-md:hidden">{{ say('classes.title') }}</th>
            <th>
              <span class="sr-only">{{ say('class.change') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in shown" :key="p.id" class="border-t border-hair">
            <td class="py-1 pr-3 font-semibold sm:whitespace-nowrap">{{ p.name }}</td>
            <td class="py-1 pr-3 max-sm:hidden">{{ p.username }}</td>
            <td class="py-1 pr-3">{{ p.standing ? say(`standing.${p.standing}`) : '' }}</td>
            <td class="py-1 pr-3 text-sm text-quiet max-md:hidden">{{ classesOf(p) }}</td>
            <td class="text-right">
              <button type="button" class="link-strong" @click="choose(p)">
                {{ say('class.change') }}<span class="sr-only"> {{ p.name }}</span>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <ActLog :title="say('people.log')" />
    <AppDialog v-if="one" :title="one.name" @close="one = undefined">
      <div class="grid gap-4">
        <SelectField
          :model-value="one.standing"
          :label="say('people.standing')"
          :options="standings"
          @update:model-value="
            (value) => {
              const p = one!;
              void quietly(
                change.standing.mutateAsync({ person: p.id, standing: value! }).then(() => (p.standing = value!)),
              );
            }
          "
        />
        <button type="button" class="button" @click="password(one)">{{ say('people.password') }}</button>
        <a class="button" :href="`/api/people/${one.id}/data?person=${session.id}`" download>{{
          say('people.data')
        }}</a>
        <button v-if="!sure" type="button" class="button" @click="sure = true">{{ say('people.takeOut') }}</button>
        <div v-else class="grid gap-2">
          <p>{{ say('people.takeOutSure', { name: one.name }) }}</p>
          <button type="button" class="button text-alarm" @click="takeOut(one)">{{ say('people.takeOutGo') }}</button>
        </div>
        <p v-if="trouble" role="alert" class="text-alarm">{{ trouble.message }}</p>
      </div>
    </AppDialog>
  </div>
  <Waiting v-else />
</template>
