<script setup lang="ts">
// Marks over a term: of a class, or one's own.
import { useTerm } from '@/api/marking';
import { written } from '@/features/marking/marks';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string }>();
const { data, error, refetch } = useTerm(() => props.classId);
</script>

<template>
  <div v-if="data" class="grid gap-3" data-test="term">
    <h1 class="text-2xl font-bold">{{ say('term.title') }}</h1>
    <p v-if="!data.practicals.length" class="sheet text-quiet">{{ say('term.none') }}</p>
    <div v-else class="sheet overflow-x-auto">
      <table class="w-full text-left">
        <thead class="text-sm text-quiet">
          <tr>
            <th scope="col" class="pr-3">{{ say('person.name') }}</th>
            <th v-for="p in data.practicals" :key="p.id" scope="col" class="pr-3 text-right font-semibold">
              {{ p.title }} <span class="figure font-normal">/{{ written(p.possible) }}</span>
            </th>
            <th scope="col" class="text-right">{{ say('term.mean') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in data.rows" :key="r.name" class="border-t border-hair">
            <th scope="row" class="py-1 pr-3 font-semibold sm:whitespace-nowrap">{{ r.name }}</th>
            <td v-for="(t, i) in r.totals" :key="i" class="figure pr-3 text-right">{{ written(t) }}</td>
            <td class="figure text-right font-bold">{{ r.percent === undefined ? '–' : `${r.percent} %` }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="text-sm text-quiet">{{ say('term.legend') }}</p>
  </div>
  <Trouble v-else-if="error" :error="error" @again="refetch()" />
  <Waiting v-else />
</template>
