<script setup lang="ts">
// The benches of a practical at once: from the door, in the hand, on the projector.
import { useNow, useStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useClassChange } from '@/features/classes/changes';
import { endLesson, useBoard, type BoardRow } from '@/api/lesson';
import BenchDialog from '@/features/board/BenchDialog.vue';
import NotebookList from '@/features/board/NotebookList.vue';
import BenchTile from '@/features/board/BenchTile.vue';
import { inFilter, spanOf, type Filter } from '@/features/board/board';
import { clock, left } from '@/features/lesson/time';
import { useSession } from '@/session/session';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string }>();
const where = { class: props.classId, practical: props.practical };
const { query, live, behind } = useBoard(where);
const board = query.data;
const session = useSession();
const manages = computed(() =>
  session.person?.classes.some((c) => c.class === props.classId && c.role === 'instructor'),
);
const tick = useNow({ interval: 5_000 });
const now = computed(() => tick.value.getTime() + behind.value);

const projector = useStorage('exactflask.projector', false, sessionStorage);
const filter = ref<Filter>('all');
const filters: Filter[] = ['all', 'help', 'hand', 'not-done'];
const shown = computed(() => (board.value?.benches ?? []).filter((b) => inFilter(b, filter.value)));
const count = (f: Filter) => (board.value?.benches ?? []).filter((b) => inFilter(b, f)).length;
const span = computed(() => spanOf(board.value?.benches ?? []));
/** On the projector benches stay where they are: by number. */
const ordered = computed(() =>
  projector.value
    ? shown.value.toSorted((a, b) => (a.bench ?? '').localeCompare(b.bench ?? '', undefined, { numeric: true }))
    : shown.value,
);
const open = ref('');
/** Who closes it goes on at its tile. */
function shut() {
  const tile = document.querySelector<HTMLElement>(`[data-test="bench-${open.value}"]`);
  open.value = '';
  tile?.focus();
}
const opened = computed(() => board.value?.benches.find((b) => b.person === open.value));

const minutes = computed(() => (board.value?.ends ? left(board.value.ends, now.value) : undefined));
const trouble = ref('');
async function attempt(what: () => Promise<unknown>) {
  trouble.value = '';
  try {
    await what();
  } catch (e) {
    trouble.value = e instanceof Error ? e.message : String(e);
  }
}
const typedEnd = ref('');
function setEnd() {
  const [h, m] = typedEnd.value.split(':').map(Number);
  if (h === undefined || m === undefined || Number.isNaN(h + m)) return;
  const at = new Date();
  at.setHours(h, m, 0, 0);
  if (at.getTime() < Date.now()) at.setDate(at.getDate() + 1);
  void attempt(() => endLesson(where, at.toISOString()));
}
const change = useClassChange(() => props.classId);
const notice = ref('');
const sent = ref(false);
const tell = () =>
  attempt(async () => {
    await change.mutateAsync((a) => a.notice(notice.value));
    notice.value = '';
    sent.value = true;
    setTimeout(() => (sent.value = false), 4000);
  });
const still = (b: BoardRow) => b.toDo.length > 0;
</script>

<template>
  <div v-if="board">
    <div class="mb-2 flex flex-wrap items-center gap-x-3 gap-y-1.5">
      <h2 v-if="projector" class="min-w-0 grow text-xl font-bold">{{ board.title }}</h2>
      <h2 v-else class="sr-only">{{ say('title.board') }}</h2>
      <div v-if="!projector" class="flex flex-wrap gap-1" role="group" :aria-label="say('board.show')">
        <button
          v-for="f in filters"
          :key="f"
          type="button"
          class="min-h-10 rounded-glass border border-hair px-2 text-sm font-semibold"
          :class="filter === f && 'chosen'"
          :aria-pressed="filter === f"
          @click="filter = f"
        >
          {{ say(`board.filter.${f}`) }} <span class="figure">{{ count(f) }}</span>
        </button>
      </div>
      <p class="text-sm" :class="live ? 'text-agree' : 'font-semibold text-alarm'" role="status">
        {{ say(live ? 'board.live' : 'board.notLive') }}
      </p>
      <p
        class="figure font-bold empty:hidden"
        :class="[minutes !== undefined && minutes <= 10 && 'text-rough', projector ? 'text-2xl' : 'text-sm']"
        data-test="left"
      >
        <template v-if="board.ends">{{
          minutes! > 0
            ? say('board.left', { minutes: minutes!, at: clock(board.ends) })
            : say('lesson.ended', { at: clock(board.ends) })
        }}</template>
      </p>
      <form v-if="!projector" class="flex items-center gap-1" @submit.prevent="setEnd">
        <label class="text-sm text-quiet" for="ends">{{ say('board.ends') }}</label>
        <input id="ends" v-model="typedEnd" type="time" class="field min-h-10 w-28" required />
        <button type="submit" class="button min-h-10 px-3 text-sm">{{ say('board.setEnd') }}</button>
        <button
          v-if="board.ends"
          type="button"
          class="min-h-10 px-1 text-sm underline"
          @click="attempt(() => endLesson(where))"
        >
          {{ say('board.noEnd') }}
        </button>
      </form>
      <form v-if="manages && !projector" class="flex min-w-48 grow items-center gap-1" @submit.prevent="tell">
        <input
          v-model="notice"
          class="field min-h-10 min-w-0"
          maxlength="500"
          required
          :aria-label="say('board.notice')"
          :placeholder="say('board.notice')"
        />
        <button type="submit" class="button min-h-10 px-3 text-sm">
          {{ say(sent ? 'board.told' : 'board.tell') }}
        </button>
      </form>
      <button
        type="button"
        class="button min-h-10 px-3 text-sm"
        :aria-pressed="projector"
        :class="projector && 'chosen'"
        @click="projector = !projector"
      >
        {{ say('board.projector') }}
      </button>
      <p v-if="board.titrant && !projector" class="text-sm text-quiet">
        {{ say('board.titrant', { volume: board.titrant }) }}
      </p>
    </div>
    <p v-if="trouble" class="mb-2 font-semibold text-alarm" role="alert">{{ trouble }}</p>
    <p v-if="!board.benches.length" class="sheet text-quiet">{{ say('board.empty') }}</p>
    <p v-else-if="!ordered.length" class="sheet text-quiet">{{ say('board.nobody') }}</p>
    <div class="grid items-start gap-x-6" :class="opened && !projector && 'lg:grid-cols-[minmax(0,1fr)_22rem]'">
      <ul
        class="grid grid-cols-[repeat(auto-fill,minmax(11.5rem,1fr))] gap-x-4 gap-y-1.5 max-sm:grid-cols-1"
        data-test="board"
      >
        <li v-for="b in ordered" :key="b.person">
          <BenchTile
            :row="b"
            :now="now"
            :span="span"
            :projector="projector"
            :ending="minutes !== undefined && minutes <= 15 && still(b)"
            :open="open === b.person"
            @open="open = open === b.person ? '' : b.person"
          />
        </li>
      </ul>
      <BenchDialog v-if="opened && !projector" :key="open" :row="opened" :now="now" @close="shut" />
    </div>
    <NotebookList v-if="!projector" :class-id="classId" :practical="practical" />
  </div>
  <Trouble v-else-if="query.error.value" :error="query.error.value" @again="query.refetch()" />
  <Waiting v-else />
</template>
