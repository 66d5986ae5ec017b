<script setup lang="ts">
// Pictures of the report: taken or chosen, scaled down here, with a caption.
import { CameraIcon } from '@heroicons/vue/24/outline';
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import { keepPicture } from '@/notebook/pictures';
import type { Bench } from '@/notebook/useBench';
import { say } from '@/words';

const props = defineProps<{
  pictures: Schemas['ShownPicture'][];
  notebook: string;
  bench: Bench;
  mayWrite: boolean;
}>();
const most = 6;
const busy = ref('');
const problem = ref('');
const room = computed(() => most - props.pictures.length);

async function add(e: Event) {
  const input = e.target as HTMLInputElement;
  const files = [...(input.files ?? [])].slice(0, room.value);
  input.value = '';
  problem.value = '';
  for (const [i, file] of files.entries()) {
    busy.value = say('report.sending', { number: i + 1, of: files.length });
    try {
      await props.bench.picture(await keepPicture(props.notebook, file), '');
    } catch (e) {
      problem.value = (e as Error).message;
    }
  }
  busy.value = '';
}
const caption = (p: Schemas['ShownPicture'], text: string) =>
  text !== p.text && text && props.bench.correct(p.entry, text, say('report.captioned'));
</script>

<template>
  <section>
    <h3 class="label">{{ say('report.pictures') }}</h3>
    <ul v-if="pictures.length" class="grid gap-3 sm:grid-cols-2">
      <li v-for="p in pictures" :key="p.entry">
        <img
          :src="`/api/notebooks/${notebook}/pictures/${p.hash}`"
          :width="p.width"
          :height="p.height"
          :alt="p.text || say('report.noCaption')"
          loading="lazy"
          class="h-auto w-full rounded-glass border border-hair"
        />
        <div v-if="mayWrite" class="mt-1 flex gap-1">
          <input
            class="field"
            maxlength="200"
            :value="p.text"
            :placeholder="say('report.caption')"
            :aria-label="say('report.caption')"
            @change="caption(p, ($event.target as HTMLInputElement).value.trim())"
          />
          <button type="button" class="button px-3" @click="bench.withdraw(p.entry, say('report.takenOut'))">
            {{ say('edit.takeOut') }}
          </button>
        </div>
        <p v-else class="text-sm">{{ p.text }}</p>
      </li>
    </ul>
    <label v-if="mayWrite && room > 0" class="button mt-2 cursor-pointer focus-within:border-accent">
      <CameraIcon class="size-5" aria-hidden="true" />{{ busy || say('report.addPicture') }}
      <input
        type="file"
        accept="image/*"
        multiple
        class="sr-only"
        :disabled="!!busy"
        data-test="picture"
        @change="add"
      />
    </label>
    <p v-if="mayWrite" class="text-sm text-quiet">{{ say('report.pictureRule', { most }) }}</p>
    <p v-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
  </section>
</template>
