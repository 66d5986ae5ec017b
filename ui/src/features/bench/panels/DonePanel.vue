<script setup lang="ts">
// In the place of the pad when the bench work is done: what comes next, and another trial
// for who wants one. Handed in, nothing more is recorded.
import type { Notebook, Trial } from '@/api/client';
import { colours } from '@/features/bench/dialogs/useChoices';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

defineProps<{ notebook: Notebook; ended?: Trial }>();
defineEmits<{ another: []; colour: [value: string] }>();
</script>

<template>
  <section class="panel grid content-start gap-3 p-4" data-test="done">
    <template v-if="notebook.handedIn">
      <h2 class="text-lg font-bold">
        {{ say('report.isHandedIn', { version: notebook.handedIn.version, at: whenIs(notebook.handedIn.at) }) }}
      </h2>
      <p>{{ say('report.notesOnly') }}</p>
      <RouterLink class="button" :to="{ name: 'report', params: { id: notebook.id } }">{{
        say('app.report')
      }}</RouterLink>
    </template>
    <template v-else>
      <h2 class="text-lg font-bold">{{ say('done.title') }}</h2>
      <p v-if="ended" class="label" aria-hidden="true">{{ say('bench.colourOf', { trial: ended.name }) }}</p>
      <ChoiceGroup
        v-if="ended"
        wide
        class="grow-0!"
        :label="say('bench.colourOf', { trial: ended.name })"
        :options="colours.map((value) => ({ value, text: say(`bench.colours.${value}`) }))"
        :now="ended.endColour"
        @choose="(c) => $emit('colour', c)"
      />
      <ol class="grid gap-1">
        <li v-for="t in notebook.sheet.toDo" :key="t" class="flex gap-2"><span aria-hidden="true">▢</span>{{ t }}</li>
      </ol>
      <p v-if="notebook.due" class="font-semibold">{{ say('report.due', { at: whenIs(notebook.due) }) }}</p>
      <RouterLink class="button" :to="{ name: 'work', params: { id: notebook.id } }">{{ say('app.work') }}</RouterLink>
      <RouterLink class="button" :to="{ name: 'report', params: { id: notebook.id } }">{{
        say('done.report')
      }}</RouterLink>
      <button type="button" class="button" data-test="another" @click="$emit('another')">
        {{ say('done.another') }}
      </button>
    </template>
  </section>
</template>
