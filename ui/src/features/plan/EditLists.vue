<script setup lang="ts">
// What is done before and after, as this school does it: usual items and its own, in its order.
import { inject, ref } from 'vue';
import type { Schemas } from '@/api/client';
import { planOf } from '@/api/planning';
import { editing, withAt } from '@/features/plan/fields';
import { say } from '@/words';

type List = 'setup' | 'cleanup';
const props = defineProps<{
  lists: Schemas['Checklists'];
  classId: string;
  /** Practicals of the class whose lists can be taken over. */
  others: { value: string; text: string }[];
}>();
const { practical, fault } = inject(editing)!;
const own = ref({ setup: '', cleanup: '' });
const taking = ref('');
const trouble = ref('');

const codes = (list: List) => props.lists[list].map((i) => i.code);
function set(list: List, now: string[] | undefined) {
  const before = list === 'setup' ? 'before' : 'after';
  // A whole list has its own items in it.
  practical.value = withAt(withAt(practical.value, `lists.${before}`, undefined), `lists.${list}`, now);
}
const without = (list: List, code: string) =>
  set(
    list,
    codes(list).filter((c) => c !== code),
  );
function earlier(list: List, i: number) {
  const now = codes(list);
  [now[i - 1], now[i]] = [now[i]!, now[i - 1]!];
  set(list, now);
}
const left = (list: List) => props.lists.usual.filter((u) => !codes(list).includes(u.code));
const add = (list: List, code: string) => code && set(list, [...codes(list), code]);
function addOwn(list: List) {
  const text = own.value[list].trim();
  if (text) add(list, '=' + text);
  own.value[list] = '';
}
/** The lists of another practical of the class. */
async function take() {
  trouble.value = '';
  try {
    const { practical: from } = await planOf(props.classId, taking.value, {
      students: 1,
      trials: 1,
      spare: 0,
      bottle: 0,
    });
    practical.value = withAt(practical.value, 'lists', from.lists);
  } catch (e) {
    trouble.value = e instanceof Error ? e.message : String(e);
  }
}
</script>

<template>
  <div class="col-span-2 grid gap-4">
    <div v-if="others.length" class="flex items-end gap-2">
      <div class="grow">
        <label class="label" for="lists-from">{{ say('edit.lists.from') }}</label>
        <select id="lists-from" v-model="taking" class="field">
          <option v-for="o in others" :key="o.value" :value="o.value">{{ o.text }}</option>
        </select>
      </div>
      <button type="button" class="button" :disabled="!taking" @click="take">{{ say('edit.lists.take') }}</button>
    </div>
    <p v-if="trouble" class="text-sm font-semibold text-alarm" role="alert">{{ trouble }}</p>
    <section v-for="list in ['setup', 'cleanup'] as const" :key="list" :data-test="`list-${list}`">
      <h3 class="label">{{ say(`bench.${list}`) }}</h3>
      <ol class="grid">
        <li v-for="(item, i) in lists[list]" :key="item.code" class="flex items-center gap-1 border-b border-hair">
          <span class="min-w-0 grow py-1 text-sm">{{ item.text }}</span>
          <button
            v-if="i"
            type="button"
            class="button button-low px-3"
            :aria-label="say('edit.lists.earlier', { item: item.text })"
            @click="earlier(list, i)"
          >
            ↑
          </button>
          <button
            v-if="lists[list].length > 1"
            type="button"
            class="button button-low px-3"
            :aria-label="say('edit.lists.without', { item: item.text })"
            @click="without(list, item.code)"
          >
            ×
          </button>
        </li>
      </ol>
      <p v-if="fault?.path === `lists.${list}`" class="text-sm font-semibold text-alarm" role="alert">
        {{ fault.text }}
      </p>
      <label class="label mt-2" :for="`list-usual-${list}`">{{ say('edit.lists.usual') }}</label>
      <select
        :id="`list-usual-${list}`"
        class="field"
        :value="''"
        @change="add(list, ($event.target as HTMLSelectElement).value)"
      >
        <option value="">{{ say('edit.lists.choose') }}</option>
        <option v-for="u in left(list)" :key="u.code" :value="u.code">{{ u.text }}</option>
      </select>
      <label class="label mt-2" :for="`list-own-${list}`">
        {{ say('edit.lists.own') }}
        <span class="figure font-normal">{{ own[list].length }}/{{ lists.most }}</span>
      </label>
      <div class="flex gap-2">
        <input
          :id="`list-own-${list}`"
          v-model="own[list]"
          class="field grow"
          :maxlength="lists.most"
          autocomplete="off"
          @keydown.enter.prevent="addOwn(list)"
        />
        <button type="button" class="button" :disabled="!own[list].trim()" @click="addOwn(list)">
          {{ say('edit.add') }}
        </button>
      </div>
      <button v-if="practical.lists?.[list]" type="button" class="button mt-2" @click="set(list, undefined)">
        {{ say('edit.lists.asUsual') }}
      </button>
    </section>
  </div>
</template>
