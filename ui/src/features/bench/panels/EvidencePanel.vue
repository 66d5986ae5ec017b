<script setup lang="ts">
// What the practical asks photographs of: a tap opens the camera, the next one takes it.
import { CameraIcon } from '@heroicons/vue/24/outline';
import { ref } from 'vue';
import type { Notebook } from '@/api/client';
import { keepPicture } from '@/notebook/pictures';
import type { Bench } from '@/notebook/useBench';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; bench: Bench }>();
const busy = ref('');
const problem = ref('');

async function take(e: Event, code: string, name: string) {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file) return;
  problem.value = '';
  busy.value = code;
  try {
    const kept = await keepPicture(props.notebook.id, file);
    problem.value = (await props.bench.picture(kept, name, code)) ?? '';
  } catch (e) {
    problem.value = (e as Error).message;
  }
  busy.value = '';
}
</script>

<template>
  <section class="sheet" data-test="evidence-asked">
    <h2 class="label mb-2">{{ say('bench.evidence') }}</h2>
    <ul class="grid gap-1.5 sm:grid-cols-2">
      <li v-for="e in notebook.sheet.evidence" :key="e.code">
        <label
          class="button flex w-full cursor-pointer justify-start focus-within:border-accent"
          :class="e.pictures.length > 0 && 'border-agree'"
        >
          <CameraIcon class="size-5 shrink-0" aria-hidden="true" />
          <span class="grow">{{ busy === e.code ? say('bench.evidenceBusy') : e.text }}</span>
          <span v-if="e.pictures.length" class="text-agree"
            >✓ {{ e.pictures.length > 1 ? e.pictures.length : '' }}</span
          >
          <input
            type="file"
            accept="image/*"
            capture="environment"
            class="sr-only"
            :disabled="!!busy || !notebook.mayWrite"
            @change="take($event, e.code, e.text)"
          />
        </label>
      </li>
    </ul>
    <p v-if="problem" class="mt-1 font-semibold text-alarm" role="alert">{{ problem }}</p>
  </section>
</template>
