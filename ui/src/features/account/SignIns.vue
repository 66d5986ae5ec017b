<script setup lang="ts">
// Where one is signed in.
import { useEndOtherSignIns, useSignIns } from '@/api/queries';
import { whenIs } from '@/shared/when';
import { say } from '@/words';

const { data: signIns } = useSignIns();
const end = useEndOtherSignIns();
</script>

<template>
  <section v-if="signIns" class="sheet">
    <h2 class="mb-2 text-xl font-bold">{{ say('account.signIns') }}</h2>
    <ul class="grid gap-2">
      <li v-for="s in signIns" :key="s.id" class="border-b border-hair pb-2">
        <p class="font-semibold wrap-anywhere">
          {{ s.mine ? say('account.signInHere') : say('account.signInElsewhere') }}
        </p>
        <p class="text-sm wrap-anywhere text-quiet">
          {{ say('account.signInWhen', { began: whenIs(s.began), seen: whenIs(s.seen) }) }} {{ s.agent }}
        </p>
      </li>
    </ul>
    <button v-if="signIns.length > 1" type="button" class="button mt-3" @click="end.mutate()">
      {{ say('account.endOthers') }}
    </button>
    <p v-if="end.error.value" role="alert" class="text-alarm">{{ end.error.value.message }}</p>
  </section>
</template>
