<script setup lang="ts">
// What those who teach say beside an entry of a notebook, and saying it.
import { useQueryClient } from '@tanstack/vue-query';
import { computed, inject, ref } from 'vue';
import { addComment, withdrawComment } from '@/api/marking';
import { keys } from '@/api/keys';
import { TextDialog } from '@/features/bench/parts';
import { noted } from '@/features/comments/noted';
import { whenMissing } from '@/shared/later';
import { say } from '@/words';

const props = defineProps<{
  /** Ids of the entry, and of others that belong to the same place. */
  entries: string[];
  what: string;
}>();
const notebook = inject(noted);
const client = useQueryClient();
const here = computed(() => (notebook?.value?.comments ?? []).filter((c) => props.entries.includes(c.entry ?? '')));
const teaches = computed(() => notebook?.value && notebook.value.role !== 'student');
const saying = ref(false);
whenMissing(() => (saying.value = false));
const trouble = ref('');
async function attempt(what: () => Promise<unknown>) {
  trouble.value = '';
  try {
    await what();
    saying.value = false;
  } catch (e) {
    trouble.value = e instanceof Error ? e.message : String(e);
  }
  await client.invalidateQueries({ queryKey: keys.notebook(notebook!.value!.id) });
}
const add = (text: string) => attempt(() => addComment(notebook!.value!.id, props.entries[0] ?? '', text));
const drop = (id: number) => attempt(() => withdrawComment(notebook!.value!.id, id));
</script>

<template>
  <div v-if="here.length || teaches" class="text-sm">
    <p v-for="c in here" :key="c.id" class="my-1 border-l-4 border-accent bg-tint px-2 py-1" data-test="entry-comment">
      {{ c.text }} <span class="text-quiet">{{ c.by }}</span>
      <button v-if="teaches" type="button" class="ml-2 min-h-8 underline" @click="drop(c.id)">
        {{ say('comments.withdraw') }}
      </button>
    </p>
    <button
      v-if="teaches"
      type="button"
      class="min-h-8 underline decoration-dotted"
      :aria-label="say('comments.on', { what })"
      data-test="say-beside"
      @click="saying = true"
    >
      {{ say('comments.say') }}
    </button>
    <TextDialog
      v-if="saying"
      :title="say('comments.on', { what })"
      :label="say('comments.text')"
      :draft="`comment.${notebook!.id}.${entries[0]}`"
      :problem="trouble"
      :most="500"
      :lines="3"
      @done="add"
      @close="saying = false"
    />
  </div>
</template>
