<script setup lang="ts">
// Thirty students in a minute: paste their names or take a CSV file, look at what was
// understood, and take it.
import { computed, ref } from 'vue';
import { useReadRoster, useSlips, type RosterRow, type Slip } from '@/api/classes';
import { Problem } from '@/api/client';
import { dropDrafts, useDraft } from '@/device/drafts';
import AppDialog from '@/shared/AppDialog.vue';
import { base64 } from '@/shared/base64';
import SelectField from '@/shared/SelectField.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string }>();
const emit = defineEmits<{ close: []; slips: [Slip[]] }>();
const reading = useReadRoster(() => props.classId);
const { add } = useSlips(() => props.classId);

const text = useDraft('people.' + props.classId, ''); // until they are in
const role = ref<'student' | 'assistant' | 'instructor'>('student');
const rows = ref<RosterRow[]>();
const asWhat = (['student', 'assistant', 'instructor'] as const).map((value) => ({
  value,
  text: say(`role.${value}`),
}));
const tooLarge = ref(false);
const most = 700_000; // bytes of a file, as the server takes them in base64

const taken = computed(() => rows.value?.filter((r) => !r.here && !r.problem) ?? []);
const wrong = computed(() => rows.value?.filter((r) => r.problem) ?? []);

async function look(bytes: Uint8Array) {
  tooLarge.value = bytes.length > most;
  if (tooLarge.value) return;
  const read = await reading.mutateAsync(base64(bytes)).catch(() => undefined);
  rows.value = read?.rows;
}

const lookAtText = () => look(new TextEncoder().encode(text.value));

async function file(e: Event) {
  const input = e.target as HTMLInputElement;
  const chosen = input.files?.[0];
  input.value = '';
  if (!chosen) return;
  if (chosen.size > most) tooLarge.value = true;
  else await look(new Uint8Array(await chosen.arrayBuffer()));
}

async function take() {
  const people = taken.value.map(({ name, username, bench, burette, sample }) => ({
    name,
    username,
    bench,
    burette,
    sample,
    role: role.value,
  }));
  const slips = await add.mutateAsync(people).catch((e: unknown) => {
    // The row that the server names.
    const at = e instanceof Problem ? /people\[(\d+)\]/.exec(e.location)?.[1] : undefined;
    if (at !== undefined) taken.value[Number(at)]!.problem = (e as Problem).message;
    return undefined;
  });
  if (!slips) return;
  dropDrafts('people.' + props.classId);
  emit('slips', slips);
  emit('close');
}
</script>

<template>
  <AppDialog :title="say('class.add')" :typed="text !== '' || rows !== undefined" @close="$emit('close')">
    <form v-if="!rows" class="grid gap-3" @submit.prevent="lookAtText">
      <div>
        <label class="label" for="roster-text">{{ say('roster.names') }}</label>
        <textarea
          id="roster-text"
          v-model="text"
          class="field h-48 py-2"
          :placeholder="say('roster.example')"
          required
        />
      </div>
      <label class="button cursor-pointer focus-within:outline-2">
        {{ say('roster.file') }}
        <input type="file" class="sr-only" accept=".csv,.tsv,.txt,text/csv,text/plain" @change="file" />
      </label>
      <p class="text-sm text-quiet">{{ say('roster.fileText') }}</p>
      <p v-if="tooLarge" role="alert" class="text-alarm">{{ say('roster.tooLarge') }}</p>
      <p v-if="reading.error.value" role="alert" class="text-alarm">{{ reading.error.value.message }}</p>
      <button type="submit" class="button-main" :disabled="reading.isPending.value">{{ say('roster.look') }}</button>
    </form>
    <div v-else class="grid gap-3">
      <p role="status">
        {{ say('roster.found', {}, rows.length) }}
        <span v-if="wrong.length" class="font-semibold text-alarm">{{ say('roster.wrong', {}, wrong.length) }}</span>
      </p>
      <div class="max-h-80 overflow-auto border border-hair">
        <table class="w-full text-left">
          <thead class="sticky top-0 bg-glass text-sm text-quiet">
            <tr>
              <th class="p-1">{{ say('roster.line') }}</th>
              <th class="p-1">{{ say('person.name') }}</th>
              <th class="p-1">{{ say('person.username') }}</th>
              <th class="p-1">{{ say('class.bench') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="r.line" class="border-t border-hair align-top">
              <td class="figure p-1 text-quiet">{{ r.line }}</td>
              <td class="p-1">
                {{ r.name }}
                <p v-if="r.problem" class="text-sm text-alarm">{{ r.problem }}</p>
                <p v-else-if="r.here" class="text-sm text-quiet">{{ say('roster.here') }}</p>
                <p v-else-if="r.known" class="text-sm text-quiet">{{ say('roster.known') }}</p>
              </td>
              <td class="p-1">
                <span v-if="r.known">{{ r.username }}</span>
                <input
                  v-else
                  v-model="r.username"
                  class="field min-h-11 min-w-36"
                  maxlength="40"
                  autocapitalize="none"
                  :aria-label="say('roster.usernameOf', { name: r.name })"
                  @input="r.problem = r.name ? undefined : r.problem"
                />
              </td>
              <td class="figure p-1">{{ r.bench }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <SelectField v-model="role" :label="say('roster.as')" :options="asWhat" />
      <p v-if="add.error.value" role="alert" class="text-alarm">{{ add.error.value.message }}</p>
      <div class="flex flex-wrap gap-2">
        <button type="button" class="button" @click="rows = undefined">{{ say('roster.back') }}</button>
        <button type="button" class="button-main grow" :disabled="!taken.length || add.isPending.value" @click="take">
          {{ say('roster.take', {}, taken.length) }}
        </button>
      </div>
    </div>
  </AppDialog>
</template>
