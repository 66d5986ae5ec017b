<script setup lang="ts">
// The notebook in ink, to be read from the top.
import { useJournal } from '@/api/queries';
import NotebookFrame from '@/shared/NotebookFrame.vue';
import Trouble from '@/shared/Trouble.vue';
import { say } from '@/words';

const props = defineProps<{ id: string }>();
const { data: journal, error, refetch } = useJournal(() => props.id);
const when = (at: string) =>
  new Date(at).toLocaleString('en-GB', { dateStyle: 'short', timeStyle: 'medium' }).replace(',', '');
</script>

<template>
  <NotebookFrame :id="id">
    <Trouble v-if="error && !journal" :error="error" @again="refetch()" />
    <section v-else-if="journal" class="panel p-4">
      <h2 class="text-xl font-bold">{{ say('journal.title') }}</h2>
      <p class="mb-3 text-quiet">{{ say('journal.intro') }}</p>
      <p v-if="journal.lines.length === 0">{{ say('journal.empty') }}</p>
      <table v-else class="w-full border-collapse text-left">
        <thead>
          <tr class="border-b-2 border-quiet text-sm">
            <th v-for="k in ['when', 'who', 'what', 'entry'] as const" :key="k" scope="col" class="py-1.5 pr-3">
              {{ say(`journal.${k}`) }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in journal.lines" :key="line.entry" class="border-b border-hair align-top">
            <td class="figure py-1.5 pr-3 text-sm whitespace-nowrap text-quiet max-sm:whitespace-normal">
              {{ when(line.at) }}
            </td>
            <td class="py-1.5 pr-3 text-sm">{{ line.by }}</td>
            <td class="py-1.5 pr-3 font-semibold">{{ line.what }}</td>
            <td class="py-1.5">
              <s v-if="line.struck">{{ line.text }}</s>
              <template v-else>{{ line.text }}</template>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <p v-else class="p-6 text-quiet" role="status">{{ say('common.loading') }}</p>
  </NotebookFrame>
</template>
