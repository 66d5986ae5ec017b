<script setup lang="ts">
// The notebook in ink, to be read from the top.
import { ref } from 'vue';
import { useJournal } from '@/api/queries';
import EntryComments from '@/features/comments/EntryComments.vue';
import NotebookFrame from '@/features/notebook/NotebookFrame.vue';
import Trouble from '@/shared/Trouble.vue';
import { dayOf, secondOf } from '@/shared/when';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ id: string }>();
const page = ref(0);
const { data: journal, error, refetch } = useJournal(() => props.id, page);
// The day is not said twice.
const cameIn = (line: { at: string; received: string }) =>
  dayOf(line.at) === dayOf(line.received) ? secondOf(line.received, true) : secondOf(line.received);
</script>

<template>
  <NotebookFrame :id="id">
    <Trouble v-if="error && !journal" :error="error" @again="refetch()" />
    <section v-else-if="journal" class="sheet">
      <h2 class="text-xl font-bold">{{ say('journal.title') }}</h2>
      <p class="mb-3 text-quiet">{{ say('journal.intro') }}</p>
      <EntryComments class="mb-3" :entries="['']" :what="say('comments.whole')" />
      <nav v-if="journal.pages > 1" class="mb-3 flex items-center gap-3" :aria-label="say('journal.title')">
        <button type="button" class="button" :disabled="journal.page <= 1" @click="page = journal.page - 1">
          {{ say('journal.earlier') }}
        </button>
        <span class="figure">{{ say('journal.page', { page: journal.page, pages: journal.pages }) }}</span>
        <button type="button" class="button" :disabled="journal.page >= journal.pages" @click="page = journal.page + 1">
          {{ say('journal.later') }}
        </button>
      </nav>
      <p v-if="journal.lines.length === 0">{{ say('journal.empty') }}</p>
      <table v-else class="w-full border-collapse text-left max-[22.5rem]:text-sm max-[22.5rem]:wrap-anywhere">
        <thead>
          <tr class="border-b-2 border-quiet text-sm">
            <th
              v-for="k in ['when', 'received', 'who', 'what', 'entry'] as const"
              :key="k"
              scope="col"
              class="py-1.5 pr-3"
              :class="{ 'max-sm:hidden': k === 'received' }"
            >
              {{ say(`journal.${k}`) }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in journal.lines" :key="line.entry" class="border-b border-hair align-top">
            <td class="figure py-1.5 pr-3 text-sm whitespace-nowrap text-quiet max-sm:whitespace-normal">
              {{ secondOf(line.at) }}
              <span class="block sm:hidden">{{ say('journal.cameIn', { time: cameIn(line) }) }}</span>
              <span v-if="line.far" class="block font-sans whitespace-normal text-alarm sm:hidden">{{ line.far }}</span>
            </td>
            <td class="max-sm:hidden figure py-1.5 pr-3 text-sm whitespace-nowrap text-quiet max-sm:whitespace-normal">
              {{ cameIn(line) }}
              <span v-if="line.far" class="block font-sans whitespace-normal text-alarm">{{ line.far }}</span>
            </td>
            <td class="py-1.5 pr-3 text-sm">{{ line.by }}</td>
            <td class="py-1.5 pr-3 font-semibold">{{ line.what }}</td>
            <td class="py-1.5">
              <span v-if="line.after" class="mr-1 font-semibold text-rough">{{ say('journal.afterHandIn') }}</span>
              <s v-if="line.struck">{{ line.text }}</s>
              <template v-else>{{ line.text }}</template>
              <EntryComments :entries="[line.entry]" :what="line.what" />
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <Waiting v-else />
  </NotebookFrame>
</template>
