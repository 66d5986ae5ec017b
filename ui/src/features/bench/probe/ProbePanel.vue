<script setup lang="ts">
// The probe that is joined: what it shows, readable at arm's length, whether it is steady,
// and how another one is joined.
import { computed, ref } from 'vue';
import type { Notebook } from '@/api/client';
import { useAbout } from '@/api/queries';
import { hasSerial, type LiveOfBench } from '@/notebook/useProbe';
import AppDialog from '@/shared/AppDialog.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; probe: LiveOfBench }>();
const emit = defineEmits<{ done: [] }>();
const { data: about } = useAbout();
const demo = computed(() => !!about.value?.demo);
const choosing = ref(false);
const live = computed(() => props.probe.live.value);
const joined = computed(() => props.probe.joined.value);
const unit = computed(() => props.notebook.sheet.probe?.unit ?? '');
const address = computed(() => `${location.origin}/api/probes/${props.notebook.id}/lines`);
const command = computed(
  () =>
    `exactflask probe --to ${location.origin} --notebook ${props.notebook.id} --token ${props.probe.token.value || '…'}`,
);
function automate(on: boolean) {
  props.probe.setAutomatic(on);
  emit('done');
}
function close() {
  choosing.value = false;
  emit('done');
}
async function join(how: 'simulated' | 'http' | 'serial') {
  await props.probe.join(how);
  if (how !== 'http' && !props.probe.problem.value) close();
}
</script>

<template>
  <section class="panel flex flex-wrap items-center gap-x-3 gap-y-1 p-2 px-3" data-test="probe">
    <template v-if="joined">
      <p class="flex items-baseline gap-2" aria-live="off">
        <span class="label">{{ say(`probe.joined.${joined}`) }}</span>
        <span class="figure text-[2rem] leading-none font-semibold" data-test="live">{{ live?.text || '–' }}</span>
        <span>{{ unit }}</span>
      </p>
      <p
        class="font-semibold"
        :class="live?.gone ? 'text-alarm' : live?.steady ? 'text-agree' : 'text-rough'"
        data-test="steady"
        role="status"
      >
        {{
          say(live?.gone ? 'probe.gone' : !live?.text ? 'probe.waiting' : live.steady ? 'probe.steady' : 'probe.moving')
        }}
      </p>
      <p v-if="live?.text" class="text-sm text-quiet">
        {{ say('probe.rate', { rate: live.rate, limit: notebook.sheet.probe!.steady, unit }) }}
      </p>
      <label class="ml-auto flex min-h-11 items-center gap-2 text-sm">
        <input
          :checked="probe.automatic.value"
          type="checkbox"
          class="size-5"
          data-test="automatic"
          @change="automate(($event.target as HTMLInputElement).checked)"
        />
        {{ say('probe.automatic') }}
      </label>
      <button type="button" class="button min-h-11 px-3 text-sm" @click="props.probe.leave()">
        {{ say('probe.leave') }}
      </button>
      <ul v-if="live?.says.length" class="w-full list-disc pl-5 text-sm text-rough">
        <li v-for="s in live.says" :key="s">{{ s }}</li>
      </ul>
    </template>
    <template v-else>
      <p class="text-sm text-quiet">{{ say('probe.none') }}</p>
      <button type="button" class="button ml-auto min-h-11 px-3 text-sm" data-test="join" @click="choosing = true">
        {{ say('probe.join') }}
      </button>
    </template>
    <p v-if="probe.problem.value" class="w-full text-sm font-semibold text-alarm" role="alert">
      {{ probe.problem.value }}
    </p>
    <AppDialog v-if="choosing" :title="say('probe.join')" @close="close">
      <div class="grid gap-3">
        <button v-if="demo" type="button" class="button-main" @click="join('simulated')">
          {{ say('probe.simulated') }}
        </button>
        <p v-if="demo" class="text-sm text-quiet">{{ say('probe.simulatedWhat') }}</p>
        <button v-if="hasSerial" type="button" class="button" @click="join('serial')">{{ say('probe.serial') }}</button>
        <p v-else class="text-sm text-quiet">{{ say('probe.noSerial') }}</p>
        <button type="button" class="button" @click="join('http')">{{ say('probe.http') }}</button>
        <template v-if="probe.token.value">
          <p class="text-sm">{{ say('probe.token') }}</p>
          <p class="figure rounded-glass bg-well p-2 break-all select-all">{{ probe.token.value }}</p>
          <p class="text-sm text-quiet">{{ say('probe.address') }}</p>
          <p class="figure rounded-glass bg-well p-2 text-sm break-all select-all">POST {{ address }}</p>
          <p class="figure rounded-glass bg-well p-2 text-sm break-all select-all">{{ command }}</p>
        </template>
        <p v-if="probe.problem.value" class="font-semibold text-alarm" role="alert">{{ probe.problem.value }}</p>
      </div>
    </AppDialog>
  </section>
</template>
