<script setup lang="ts">
// How the solution is made, from the solid or the stock to the bottle, with what was written down
// of each vessel, and what can be written.
import { computed } from 'vue';
import type { Notebook } from '@/api/client';
import OwnValues from '@/features/bench/panels/OwnValues.vue';
import type { Asking } from '@/notebook/asking';
import RoutePicture from '@/shared/RoutePicture.vue';
import { say } from '@/words';

const props = defineProps<{ notebook: Notebook; may: boolean; undoable: string }>();
const emit = defineEmits<{ ask: [what: Asking]; undo: [] }>();
const next = computed(() => props.notebook.sheet.next);
const ownAt = (vessel: number) => props.notebook.sheet.measured.filter((v) => v.vessel === vessel);
// Once it is made, what comes next is the main thing.
const look = computed(() => (props.notebook.sheet.done ? 'button' : 'button-main'));
</script>

<template>
  <section class="sheet grid gap-3" :aria-label="say('bench.makesOnly')">
    <h2 class="label">{{ say('bench.makesOnly') }}</h2>
    <RoutePicture v-slot="{ place }" :route="notebook.sheet.setting.route">
      <OwnValues :values="ownAt(place)" :may="may" @ask="emit('ask', $event)" />
    </RoutePicture>
    <p v-if="notebook.sheet.made" class="font-semibold" data-test="made">{{ notebook.sheet.made }}</p>
    <div v-if="may" class="flex flex-wrap gap-2">
      <button
        v-if="next.weigh"
        type="button"
        :class="look"
        data-main
        data-test="weigh-standard"
        @click="emit('ask', { what: 'weigh', standard: true })"
      >
        {{ say('bench.weighStandard', { name: notebook.sheet.setting.standard ?? '' }) }}
      </button>
      <button v-if="next.prepare" type="button" :class="look" data-main @click="emit('ask', { what: 'prepare' })">
        {{ say('bench.prepare') }}
      </button>
      <button type="button" class="button" @click="emit('ask', { what: 'note' })">{{ say('bench.note') }}</button>
      <button type="button" class="button text-alarm" @click="emit('ask', { what: 'cautions' })">
        {{ say('bench.cautions') }}
      </button>
      <button type="button" class="button" @click="emit('ask', { what: 'partner' })">{{ say('bench.partner') }}</button>
      <button type="button" class="button" :disabled="!undoable" data-test="undo" @click="emit('undo')">
        {{ say('bench.undo') }} <span class="figure font-normal">{{ undoable || '–' }}</span>
      </button>
    </div>
  </section>
</template>
