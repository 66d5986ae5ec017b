<script setup lang="ts">
// The glassware that is used: a piece of the school's in the place of the practical's, or in words.
import { computed, ref } from 'vue';
import type { Schemas } from '@/api/client';
import AppDialog from '@/shared/AppDialog.vue';
import SelectField from '@/shared/SelectField.vue';
import { say } from '@/words';

const props = defineProps<{ places: Schemas['GlassPlace'][]; problem: string; doubt: string }>();
const emit = defineEmits<{ done: [step: number | undefined, piece: Schemas['Piece']]; words: []; close: [] }>();
const at = ref('0');
const place = computed(() => props.places[Number(at.value)]);
const chosen = ref('');
const pieceOf = ({
  kind,
  name,
  serial,
  capacity,
  division,
  first,
  rising,
  class: c,
  tolerance,
}: Schemas['NamedPiece']) => ({
  ...{ kind, name, serial, capacity, division, first, rising, class: c, tolerance },
});
function take() {
  const piece = place.value?.pieces[Number(chosen.value)];
  if (chosen.value !== '' && piece) emit('done', place.value!.step, pieceOf(piece));
}
</script>

<template>
  <AppDialog :title="say('bench.words.glass')" @close="emit('close')">
    <form class="grid gap-3" @submit.prevent="take">
      <p v-if="doubt" class="font-semibold text-rough" role="alert">{{ doubt }}</p>
      <p v-if="problem" class="font-semibold text-alarm" role="alert">{{ problem }}</p>
      <SelectField
        v-if="places.length > 1"
        v-model="at"
        name="glass-place"
        :label="say('dialog.glass.place')"
        :options="places.map((p, i) => ({ value: String(i), text: p.name }))"
        @update:model-value="chosen = ''"
      />
      <SelectField
        v-if="place"
        v-model="chosen"
        name="glass-piece"
        :label="places.length > 1 ? say('dialog.glass.piece') : place.name"
        :options="[
          { value: '', text: say('edit.lists.choose') },
          ...place.pieces.map((p, i) => ({ value: String(i), text: p.text })),
        ]"
      />
      <p class="text-sm text-quiet">{{ say('dialog.glass.counts') }}</p>
      <button type="submit" class="button-main" :disabled="chosen === ''">
        {{ say(doubt ? 'dialog.asItIs' : 'dialog.glass.use') }}
      </button>
      <button type="button" class="button" @click="emit('words')">{{ say('dialog.glass.words') }}</button>
    </form>
  </AppDialog>
</template>
