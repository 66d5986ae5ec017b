<script setup lang="ts">
// A student's request for another look at a criterion, and its answer.
import { ref } from 'vue';
import type { Schemas } from '@/api/client';
import { useDraft } from '@/device/drafts';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{
  request: Schemas['MarkRequest'];
  mayAnswer: boolean;
  answer: (text: string) => Promise<unknown>;
}>();
const text = useDraft(`request.${props.request.id}`, '');
const trouble = ref('');
async function send() {
  trouble.value = '';
  try {
    await props.answer(text.value);
    text.value = '';
  } catch (e) {
    trouble.value = e instanceof Error ? e.message : String(e);
  }
}
</script>

<template>
  <section class="panel border-rough p-3" data-test="request">
    <h2 class="font-bold">{{ say('marking.request', { title: request.title }) }}</h2>
    <p class="wrap-anywhere whitespace-pre-line">{{ request.reason }}</p>
    <p class="text-sm text-quiet">{{ request.by }}, {{ whenIs(request.at) }}</p>
    <p v-if="request.answered" class="mt-2 border-l-4 border-accent pl-2">
      {{ request.answer }}
      <span class="text-sm text-quiet">{{ request.answeredBy }}, {{ whenIs(request.answered) }}</span>
    </p>
    <form v-else-if="mayAnswer" class="mt-2 flex gap-2" @submit.prevent="send">
      <input
        v-model="text"
        class="field grow"
        maxlength="500"
        required
        :aria-label="say('marking.answer')"
        :placeholder="say('marking.answerHow')"
      />
      <button type="submit" class="button">{{ say('marking.answer') }}</button>
    </form>
    <p v-else class="text-sm text-quiet">{{ say('marking.unanswered') }}</p>
    <p v-if="trouble" class="font-semibold text-alarm" role="alert">{{ trouble }}</p>
  </section>
</template>
