<script setup lang="ts">
// The reactions between what is titrated and what is asked for.
import { inject } from 'vue';
import EditField from '@/features/plan/EditField.vue';
import { editing, withAt } from '@/features/plan/fields';
import { say } from '@/words';

const { practical } = inject(editing)!;
const most = 4;
const set = (via: unknown[]) =>
  (practical.value = withAt(practical.value, 'chemistry.via', via.length ? via : undefined));
const add = () =>
  set([...(practical.value.chemistry.via ?? []), { equation: '', to: practical.value.chemistry.analyte.formula }]);
const without = (i: number) => set(practical.value.chemistry.via!.filter((_, n) => n !== i));
</script>

<template>
  <div class="col-span-2 grid gap-2">
    <p class="text-sm text-quiet">{{ say('edit.via') }}</p>
    <div v-for="(_, i) in practical.chemistry.via" :key="i" class="grid grid-cols-[1fr_7rem_auto] items-end gap-2">
      <EditField :path="`chemistry.via[${i}].equation`" control="text" />
      <EditField :path="`chemistry.via[${i}].to`" control="text" />
      <button type="button" class="button px-3" :aria-label="say('edit.takeOut')" @click="without(i)">×</button>
    </div>
    <button v-if="(practical.chemistry.via?.length ?? 0) < most" type="button" class="button" @click="add">
      {{ say('edit.viaAdd') }}
    </button>
  </div>
</template>
