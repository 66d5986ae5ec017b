<script setup lang="ts">
// The students: who has which unknown, who works with whom, and under which revision.
import { computed } from 'vue';
import type { Settings } from '@/api/settings';
import { say } from '@/words';

const props = defineProps<{ now: Settings; codes: string[]; pairs: Record<string, string> }>();
const pairing = defineModel<Settings['pairing']>('pairing', { required: true });
const deals = defineModel<Record<string, string>>('deals', { required: true });
defineEmits<{ pair: [person: string, partner: string]; move: [people: string[]] }>();
const behind = computed(() =>
  props.now.seats.filter((s) => s.notebook && s.revision !== props.now.revision && props.now.assigned),
);
</script>

<template>
  <section class="sheet overflow-x-auto">
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
      <button v-if="behind.length && now.mayManage" type="button" class="button" @click="$emit('move', [])">
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
              @change="$emit('pair', s.person, ($event.target as HTMLSelectElement).value)"
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
            <RouterLink v-if="s.notebook" :to="{ name: 'bench', params: { id: s.notebook } }" class="link">{{
              say('setting.under', { n: s.revision })
            }}</RouterLink>
            <button
              v-if="s.notebook && s.revision !== now.revision && now.assigned && now.mayManage"
              type="button"
              class="link-strong"
              @click="$emit('move', [s.person])"
            >
              {{ say('setting.moveOne', { n: now.revision }) }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
