<script setup lang="ts">
// The end of a waiting time: seen, heard and felt, over the page and not in it.
import { onMounted } from 'vue';
import { say } from '@/words';

const props = defineProps<{ text: string; sound: boolean }>();
defineEmits<{ close: [] }>();

/** Two short notes, made here: nothing is loaded. */
function beep() {
  const audio = new AudioContext();
  for (const [i, hertz] of [660, 880].entries()) {
    const note = audio.createOscillator();
    const volume = audio.createGain();
    const at = audio.currentTime + i * 0.22;
    note.frequency.value = hertz;
    volume.gain.setValueAtTime(0.0001, at);
    volume.gain.exponentialRampToValueAtTime(0.3, at + 0.02);
    volume.gain.exponentialRampToValueAtTime(0.0001, at + 0.2);
    note.connect(volume).connect(audio.destination);
    note.start(at);
    note.stop(at + 0.21);
  }
  setTimeout(() => void audio.close(), 1_000);
}

onMounted(() => {
  if (props.sound && typeof AudioContext !== 'undefined') beep();
});
</script>

<template>
  <div class="timer-done pointer-events-none fixed inset-0 z-10" aria-hidden="true" />
  <div class="no-print fixed inset-x-0 bottom-0 z-10 mx-auto flex max-w-xl items-center gap-2 p-3">
    <p class="panel grow border-l-8 border-l-end p-3 font-semibold shadow-xl" role="alert" data-test="timer-done">
      {{ text }}
    </p>
    <button type="button" class="button bg-glass shadow-xl" @click="$emit('close')">{{ say('common.seen') }}</button>
  </div>
</template>
