<script setup lang="ts">
// Every notebook of a practical in a class, a page at a time; also of who has left the class.
import { computed, ref } from 'vue';
import { useClassNotebooks } from '@/api/today';
import Trouble from '@/shared/Trouble.vue';
import { whenIs } from '@/shared/when';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const props = defineProps<{ classId: string; practical: string }>();
const open = ref(false);
const from = ref(0);
const page = 100;
const { data, error, refetch } = useClassNotebooks(
  () => ({ class: props.classId, practical: props.practical }),
  from,
  open,
);
const last = computed(() => Math.min(from.value + page, data.value?.total ?? 0));
</script>

<template>
  <details
    class="sheet no-print mt-4"
    data-test="notebooks"
    @toggle="open = ($event.target as HTMLDetailsElement).open"
  >
    <summary class="min-h-11 font-semibold">{{ say('board.notebooks') }}</summary>
    <Trouble v-if="error && !data" :error="error" @again="refetch()" />
    <template v-else-if="data">
      <ul class="sm:columns-2 sm:gap-x-8">
        <li
          v-for="n in data.notebooks"
          :key="n.id || n.student"
          class="row flex min-h-9 break-inside-avoid items-center gap-3"
        >
          <RouterLink
            v-if="n.id"
            :to="{ name: 'bench', params: { id: n.id } }"
            class="min-w-0 grow py-1 leading-tight font-semibold wrap-anywhere"
            >{{ n.student }}</RouterLink
          >
          <span v-else class="min-w-0 grow leading-tight text-quiet wrap-anywhere">{{ n.student }}</span>
          <span v-if="n.former" class="text-sm text-quiet">{{ say('shelf.former') }}</span>
          <span class="text-right text-sm leading-tight" :class="n.broken ? 'text-alarm' : 'text-quiet'">{{
            n.broken || (n.handedIn && !n.returned ? say('shelf.handedIn', { at: whenIs(n.handedIn) }) : n.stageText)
          }}</span>
        </li>
      </ul>
      <p v-if="data.total > page" class="flex items-center gap-3 pt-2">
        <button type="button" class="button" :disabled="from === 0" @click="from -= page">
          {{ say('list.before') }}
        </button>
        <span class="figure">{{ from + 1 }}–{{ last }} / {{ data.total }}</span>
        <button type="button" class="button" :disabled="last >= data.total" @click="from += page">
          {{ say('list.next') }}
        </button>
      </p>
    </template>
    <Waiting v-else />
  </details>
</template>
