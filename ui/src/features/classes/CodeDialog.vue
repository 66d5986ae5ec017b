<script setup lang="ts">
// The code with which students come in by themselves, large enough for a projector.
import { computed, ref, watchEffect } from 'vue';
import { type ClassPage } from '@/api/classes';
import { useClassChange } from '@/features/classes/changes';
import AppDialog from '@/shared/AppDialog.vue';
import SelectField from '@/shared/SelectField.vue';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{ page: ClassPage }>();
defineEmits<{ close: [] }>();
const change = useClassChange(() => props.page.id);
const minutes = ref(60);
const times = [30, 60, 240, 1440, 10080].map((value) => ({
  value,
  text: say(`class.codeFor.${value}` as 'class.codeFor.60'),
}));
const link = computed(() => (props.page.code ? `${location.origin}/join/${props.page.code.code}` : ''));
const picture = ref('');
const closes = computed(() => (props.page.code ? whenIs(props.page.code.closes) : ''));

watchEffect(async () => {
  const to = link.value;
  if (!to) return;
  const { toString } = await import('qrcode');
  picture.value = `data:image/svg+xml;utf8,${encodeURIComponent(await toString(to, { type: 'svg', margin: 2 }))}`;
});
</script>

<template>
  <AppDialog :title="say('class.code')" @close="$emit('close')">
    <div v-if="page.code" class="grid justify-items-center gap-3 text-center">
      <p>{{ say('class.codeGoTo') }}</p>
      <p class="text-lg font-semibold break-all">{{ link }}</p>
      <img v-if="picture" :src="picture" :alt="say('class.codePicture')" class="w-full max-w-72 bg-white" />
      <p class="figure text-5xl font-bold tracking-wider max-sm:text-4xl" data-test="join-code">{{ page.code.code }}</p>
      <p class="text-quiet">{{ say('class.codeCloses', { at: closes }) }}</p>
      <button type="button" class="button" @click="change.mutate((a) => a.closeCode())">
        {{ say('class.codeClose') }}
      </button>
    </div>
    <form v-else class="grid gap-3" @submit.prevent="change.mutate((a) => a.openCode(minutes))">
      <p>{{ say('class.codeText') }}</p>
      <SelectField v-model="minutes" :label="say('class.codeOpenFor')" :options="times" />
      <button type="submit" class="button-main" :disabled="change.isPending.value">{{ say('class.codeOpen') }}</button>
    </form>
    <p v-if="change.error.value" role="alert" class="mt-3 text-alarm">{{ change.error.value.message }}</p>
  </AppDialog>
</template>
