<script setup lang="ts">
// A comment on a criterion; what was said before is offered as it is typed.
import { computed, onMounted, ref } from 'vue';
import { useBank, type Where } from '@/api/marking';
import { dropDrafts, useDraft } from '@/device/drafts';
import { say } from '@/words';

const props = defineProps<{ where: Where; criterion: string; title: string; text: string; draft: string }>();
const emit = defineEmits<{ done: [text: string]; close: [] }>();
const text = useDraft(props.draft, props.text); // until it is given
const field = ref<HTMLInputElement>();
const at = ref(-1);
const { data: bank } = useBank(props.where, () => props.criterion);
const offered = computed(() => {
  const typed = text.value.trim().toLowerCase();
  return (bank.value ?? []).filter((c) => c.text !== text.value && c.text.toLowerCase().includes(typed)).slice(0, 6);
});
onMounted(() => field.value?.focus());
function move(by: number) {
  const n = offered.value.length;
  if (n) at.value = (at.value + by + n) % n;
}
function done() {
  dropDrafts(props.draft);
  emit('done', offered.value[at.value]?.text ?? text.value);
}
</script>

<template>
  <section class="panel border-accent p-3" data-test="comment">
    <label class="label" for="mark-comment">{{ say('marking.commentOn', { title }) }}</label>
    <input
      id="mark-comment"
      ref="field"
      v-model="text"
      class="field"
      maxlength="1000"
      autocomplete="off"
      :placeholder="say('marking.commentHow')"
      @input="at = -1"
      @keydown.enter.prevent="done"
      @keydown.esc.stop.prevent="emit('close')"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
    />
    <ul v-if="offered.length" class="mt-2 grid gap-1" :aria-label="say('marking.bank')">
      <li v-for="(c, i) in offered" :key="c.text">
        <button
          type="button"
          class="flex min-h-10 w-full items-center justify-between gap-3 rounded-glass border border-hair px-2 text-left text-sm"
          :class="i === at && 'chosen'"
          @click="emit('done', c.text)"
        >
          <span>{{ c.text }}</span> <span class="figure text-quiet">{{ c.used }}×</span>
        </button>
      </li>
    </ul>
  </section>
</template>
