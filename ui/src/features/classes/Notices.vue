<script setup lang="ts">
// What everyone in the class is told, on the shelf.
import { ref } from 'vue';
import { type ClassPage } from '@/api/classes';
import { useClassChange } from '@/features/classes/changes';
import TextField from '@/shared/TextField.vue';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

const props = defineProps<{ page: ClassPage }>();
const change = useClassChange(() => props.page.id);
const text = ref('');

async function put() {
  await change
    .mutateAsync((a) => a.notice(text.value))
    .then(
      () => (text.value = ''),
      () => undefined, // said below
    );
}
</script>

<template>
  <section v-if="page.mayManage || page.notices.length" class="sheet">
    <h2 class="mb-2 text-lg font-bold">{{ say('class.notices') }}</h2>
    <ul class="mb-3 grid gap-2">
      <li
        v-for="n in page.notices"
        :key="n.id"
        class="flex items-start justify-between gap-3 border-b border-hair pb-2"
      >
        <div>
          <p class="wrap-anywhere whitespace-pre-line">{{ n.text }}</p>
          <p class="text-sm text-quiet">{{ n.by }}, {{ whenIs(n.at) }}</p>
        </div>
        <button
          v-if="page.mayManage"
          type="button"
          class="min-h-11 shrink-0 px-2 font-semibold underline"
          @click="change.mutate((a) => a.dropNotice(n.id))"
        >
          {{ say('class.noticeDown') }}
        </button>
      </li>
    </ul>
    <form v-if="page.mayManage" class="flex flex-wrap items-end gap-2" @submit.prevent="put">
      <TextField
        v-model="text"
        name="notice"
        :label="say('class.notice')"
        class="min-w-60 grow"
        maxlength="500"
        required
      />
      <button type="submit" class="button">{{ say('class.noticeUp') }}</button>
    </form>
    <p v-if="change.error.value" role="alert" class="mt-2 text-alarm">{{ change.error.value.message }}</p>
  </section>
</template>
