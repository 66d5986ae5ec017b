<script setup lang="ts">
// The glassware of a class, or of the whole installation: a row a piece.
import { ref, watch } from 'vue';
import { placeOf } from '@/api/client';
import { useGlass, useKeepGlass, type Piece } from '@/api/glass';
import { useSession } from '@/session/session';
import { say } from '@/words';

const props = defineProps<{ classId?: string }>();
const { data: glass } = useGlass(() => props.classId);
const session = useSession();
const own = ref<Piece[]>([]);
const fault = ref<{ path: string; text: string }>();
const saved = ref(false);
watch(glass, (now) => (own.value = (now?.own ?? []).map((p) => ({ ...p }))), { immediate: true });
watch(own, () => (saved.value = false), { deep: true });

const kinds = ['burette', 'pipette', 'cylinder', 'flask'] as const;
const most = 100;
const add = () => own.value.push({ kind: 'burette', name: '', capacity: '50.00', division: '0.1' });
const without = (i: number) => own.value.splice(i, 1);
type Written = 'name' | 'serial' | 'capacity' | 'division' | 'first' | 'tolerance';
const fields = (p: Piece): Written[] =>
  p.kind === 'burette'
    ? ['name', 'serial', 'capacity', 'division', 'first', 'tolerance']
    : ['name', 'serial', 'capacity', 'tolerance'];
const inWords = (f: Written) => f === 'name' || f === 'serial';
function write(p: Piece, field: Written, text: string) {
  const value = inWords(field) ? text : text.replace(',', '.').trim();
  if (value || field === 'name' || field === 'capacity') p[field] = value;
  else delete p[field];
}
/** What belongs to its kind alone. */
const plain = ({ division, first, rising, ...p }: Piece): Piece =>
  p.kind === 'burette' ? { ...p, division, first, rising } : p;
const wrong = (i: number, field: string) => fault.value?.path === `glass[${i}].${field}`;
const keep = useKeepGlass();
async function save() {
  fault.value = undefined;
  try {
    await keep(props.classId, own.value.map(plain));
    saved.value = true;
  } catch (e) {
    fault.value = placeOf(e);
  }
}
</script>

<template>
  <details v-if="glass" class="sheet" data-test="glass">
    <summary class="min-h-11 text-lg font-bold">{{ say('glassware.title') }}</summary>
    <form class="mt-2 grid max-w-2xl gap-3" @submit.prevent="save">
      <p>{{ say(classId ? 'glassware.ofClass' : 'glassware.ofAll') }}</p>
      <ol class="grid gap-3">
        <li v-for="(p, i) in own" :key="i" class="rounded-glass border border-hair p-2">
          <div class="mb-2 flex items-end gap-2">
            <div class="grow">
              <label class="label" :for="`glass-kind-${i}`">{{ say('glassware.kind') }}</label>
              <select :id="`glass-kind-${i}`" v-model="p.kind" class="field">
                <option v-for="k in kinds" :key="k" :value="k">{{ say(`glassware.kinds.${k}`) }}</option>
              </select>
            </div>
            <button type="button" class="button px-3" :aria-label="say('edit.takeOut')" @click="without(i)">×</button>
          </div>
          <div class="grid grid-cols-2 gap-2">
            <div v-for="f in fields(p)" :key="f">
              <label class="label" :for="`glass-${f}-${i}`">{{
                say(`glassware.${f}`, { volume: session.person?.units.volume })
              }}</label>
              <input
                :id="`glass-${f}-${i}`"
                class="field"
                :class="!inWords(f) && 'figure'"
                :inputmode="inWords(f) ? undefined : 'decimal'"
                :maxlength="f === 'name' ? 60 : f === 'serial' ? 40 : 12"
                autocomplete="off"
                :aria-invalid="wrong(i, f)"
                :value="p[f] ?? ''"
                @input="write(p, f, ($event.target as HTMLInputElement).value)"
              />
            </div>
            <div>
              <label class="label" :for="`glass-class-${i}`">{{ say('plan.class') }}</label>
              <select :id="`glass-class-${i}`" v-model="p.class" class="field">
                <option :value="undefined">B</option>
                <option value="A">A</option>
              </select>
            </div>
            <label v-if="p.kind === 'burette'" class="col-span-2 flex min-h-11 items-center gap-2">
              <input v-model="p.rising" type="checkbox" class="size-5 accent-accent" />{{ say('plan.rising') }}
            </label>
          </div>
        </li>
      </ol>
      <p v-if="fault" class="font-semibold text-alarm" role="alert">{{ fault.text }}</p>
      <div class="flex flex-wrap items-center gap-3">
        <button v-if="own.length < most" type="button" class="button" @click="add">{{ say('glassware.add') }}</button>
        <button class="button">{{ say('norms.save') }}</button>
        <span v-if="saved" class="text-sm font-semibold text-agree" role="status">{{ say('glassware.saved') }}</span>
      </div>
    </form>
  </details>
</template>
