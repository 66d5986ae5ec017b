<script setup lang="ts">
// The call for help at one's own bench, in one touch.
import { HandRaisedIcon } from '@heroicons/vue/24/outline';
import { ref } from 'vue';
import type { Notebook } from '@/api/client';
import { useHand } from '@/api/lesson';
import { announce } from '@/shared/announce';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook }>();
const raise = useHand(() => props.notebook.id);
const busy = ref(false);
const failed = ref('');
async function touch() {
  busy.value = true;
  failed.value = '';
  const up = !props.notebook.hand;
  try {
    await raise(up);
    announce(say(up ? 'hand.isUp' : 'hand.isDown'));
  } catch (e) {
    failed.value = e instanceof Error ? e.message : String(e);
    announce(failed.value);
  }
  busy.value = false;
}
</script>

<template>
  <button
    type="button"
    class="flex min-h-11 items-center gap-1.5 rounded-glass border px-2.5 font-semibold whitespace-nowrap"
    :class="notebook.hand ? 'border-(--end) bg-tint text-(color:--end)' : 'border-hair hover:border-accent'"
    :aria-pressed="!!notebook.hand"
    :aria-label="say('hand.raise')"
    :disabled="busy"
    :title="failed || (notebook.hand?.by ? say('hand.comes', { by: notebook.hand.by }) : say('hand.help'))"
    data-test="hand"
    @click="touch"
  >
    <HandRaisedIcon class="size-5 shrink-0" aria-hidden="true" />
    <span class="max-lg:sr-only" :class="failed && 'text-alarm'">{{
      failed
        ? say('hand.failed')
        : notebook.hand
          ? notebook.hand.by
            ? say('hand.comes', { by: notebook.hand.by })
            : say('hand.up')
          : say('hand.raise')
    }}</span>
  </button>
</template>
