<script setup lang="ts">
// Where one notebook stands. What waits on this device counts: the core here says what
// follows from it.
import { useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import type { Notebook, Schemas } from '@/api/client';
import { kept } from '@/api/kept';
import { keys } from '@/api/keys';
import { useBegin } from '@/notebook/notebooks';
import MiniBurette from '@/features/shelf/MiniBurette.vue';
import { begunOf } from '@/notebook/begun';
import { useOutbox } from '@/notebook/outbox';
import { useJudged } from '@/notebook/useJudged';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{
  n: Schemas['ShelfSummary'];
  closed?: boolean;
  /** Among many others: what is not begun says no more than that. */
  brief?: boolean;
  where: { class: string; practical: string };
}>();
const emit = defineEmits<{ failed: [why: string] }>();
const client = useQueryClient();
const router = useRouter();
const outbox = useOutbox();
const begin = useBegin();

const begun = computed(() => (props.n.id ? undefined : begunOf(props.where)));
const id = computed(() => props.n.id ?? begun.value?.id);
const waiting = computed(() => (id.value ? outbox.waitingFor(id.value).length : 0));
const known = computed(() => {
  if (begun.value) return begun.value;
  if (!id.value || !waiting.value) return undefined;
  return client.getQueryData<Notebook>(keys.notebook(id.value)) ?? kept<Notebook>('notebook.' + id.value);
});
const { shown } = useJudged(known, () => true);
const whole = computed(() => !props.brief || !!id.value);
const stands = computed(() => {
  const sheet = (waiting.value || begun.value) && shown.value?.sheet;
  return sheet
    ? { done: sheet.done, text: sheet.stageText, next: sheet.next.text, here: true }
    : { done: props.n.done, text: props.n.stageText, next: props.n.next, here: false };
});

async function start() {
  try {
    const notebook = await begin.mutateAsync(props.where);
    await router.push({ name: 'bench', params: { id: notebook.id } });
  } catch (e) {
    emit('failed', e instanceof Error ? e.message : String(e));
  }
}
</script>

<template>
  <li class="flex items-center gap-4 rounded-glass border border-hair p-3">
    <MiniBurette v-if="whole" :capacity="n.capacity" :bands="n.bands" class="shrink-0" />
    <div class="min-w-0 grow" :class="!whole && 'flex flex-wrap items-center justify-between gap-2'">
      <p class="text-lg font-semibold" :class="stands.done && 'text-agree'">{{ stands.text }}</p>
      <p v-if="n.handedIn" class="font-semibold" data-test="handed-in">
        {{
          say(n.returned ? 'shelf.returned' : n.late ? 'shelf.handedInLate' : 'shelf.handedIn', {
            at: whenIs(n.handedIn),
          })
        }}
      </p>
      <p v-if="n.broken" class="font-semibold text-alarm">{{ n.broken }}</p>
      <p v-if="waiting" class="font-semibold text-rough" data-test="waits">{{ say('shelf.waiting', {}, waiting) }}</p>
      <p v-if="n.id && !stands.here" class="text-sm text-quiet">
        {{ say('shelf.trials', {}, n.trials)
        }}<template v-if="n.checks"> · {{ say('shelf.checks', {}, n.checks) }}</template>
      </p>
      <p v-if="whole" class="my-2">{{ stands.next }}</p>
      <div class="flex flex-wrap gap-2" :class="whole && 'mt-2'">
        <button
          v-if="!id && !closed"
          type="button"
          class="button-main"
          :disabled="begin.isPending.value"
          @click="start"
        >
          {{ say('shelf.begin') }}
        </button>
        <RouterLink v-if="id" class="button-main" :to="{ name: 'bench', params: { id } }">{{
          say('shelf.open')
        }}</RouterLink>
        <RouterLink v-if="id && n.marked" class="button" :to="{ name: 'marks', params: { id } }">{{
          say('app.marks')
        }}</RouterLink>
        <RouterLink v-if="id && stands.done" class="button" :to="{ name: 'report', params: { id } }">{{
          say(n.handedIn ? 'app.report' : 'done.report')
        }}</RouterLink>
        <RouterLink v-if="id && stands.done" class="button" :to="{ name: 'result', params: { id } }">{{
          say('shelf.result')
        }}</RouterLink>
      </div>
    </div>
  </li>
</template>
