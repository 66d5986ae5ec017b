<script setup lang="ts">
// One field of the practical, with what is wrong with it.
import { computed, inject, ref } from 'vue';
import { at, editing, written, type Control } from '@/features/plan/fields';
import { useSession } from '@/session/session';
import { say, type Key } from '@/words';

const props = defineProps<{
  path: string;
  control: Control;
  label?: Key;
  as?: string; // the field that it is called after, where it stands in several places
  options?: { value: string; text: string }[];
  /** In a line of other things: its label is not seen, its unit stands behind it. */
  bare?: boolean;
  unit?: string;
}>();
const { practical, fault } = inject(editing)!;

/** Its place without the numbers of rows: what it is called. */
const name = computed(() => props.as ?? props.path.replace(/\[\d+\]/g, ''));
const session = useSession();
const text = (key: string) => say(key as Key, { ...session.person?.units });
const id = computed(() => 'edit-' + props.path.replace(/\W+/g, '-'));
const value = computed(() => at(practical.value, props.path));
const choices = computed(
  () =>
    props.options ??
    (Array.isArray(props.control)
      ? (props.control as string[]).map((v) => ({ value: v, text: text(v ? `edit.${name.value}.${v}` : 'edit.usual') }))
      : undefined),
);
const wrong = computed(() => (fault.value?.path === props.path ? fault.value.text : ''));

/** A list, one to a line; none where nothing stands there. */
function linesOf(text: string) {
  const lines = text.split('\n').map((line) => line.trim());
  return lines.some(Boolean) ? lines.filter(Boolean) : undefined;
}
const joined = (list: unknown) => (list as string[] | undefined)?.join('\n') ?? '';
/** As it was typed, with a line that is just beginning; another list takes its place. */
const typing = ref('');
const lines = computed(() =>
  joined(linesOf(typing.value)) === joined(value.value) ? typing.value : joined(value.value),
);
function write(given: string | boolean) {
  let next: unknown = given;
  if (props.control === 'decimal') next = String(given).replace(',', '.').trim();
  if (props.control === 'whole') next = Number(given) || undefined;
  if (props.control === 'check') next = given || undefined;
  if (props.control === 'lines') {
    typing.value = String(given);
    next = linesOf(typing.value);
  }
  practical.value = written(practical.value, props.path, next);
}
const typed = (e: Event) => write((e.target as HTMLInputElement).value);
</script>

<template>
  <div :class="bare && 'whitespace-nowrap'">
    <label v-if="control === 'check'" class="flex min-h-11 items-center gap-2">
      <input
        :id="id"
        type="checkbox"
        class="size-5 accent-accent"
        :checked="value === true"
        @change="write(($event.target as HTMLInputElement).checked)"
      />{{ text(label ?? `edit.${name}`) }}
    </label>
    <template v-else>
      <label :class="bare ? 'sr-only' : 'label'" :for="id">{{ text(label ?? `edit.${name}`) }}</label>
      <select v-if="choices" :id="id" class="field" :value="value ?? ''" :aria-invalid="!!wrong" @change="typed">
        <option v-for="o in choices" :key="o.value" :value="o.value">{{ o.text }}</option>
      </select>
      <textarea
        v-else-if="control === 'lines'"
        :id="id"
        class="field py-2"
        rows="3"
        maxlength="400"
        :value="lines"
        :aria-invalid="!!wrong"
        @input="typed"
      ></textarea>
      <textarea
        v-else-if="control === 'area'"
        :id="id"
        class="field py-2"
        rows="3"
        maxlength="2000"
        :value="(value as string) ?? ''"
        @input="typed"
      ></textarea>
      <input
        v-else
        :id="id"
        :class="[bare ? 'line-field w-20 text-center' : 'field', control !== 'text' && 'figure']"
        :inputmode="control === 'text' ? undefined : control === 'whole' ? 'numeric' : 'decimal'"
        maxlength="600"
        :value="value ?? ''"
        :aria-invalid="!!wrong"
        @input="typed"
      />
      <span v-if="bare && unit" class="pl-1" aria-hidden="true">{{ unit }}</span>
    </template>
    <p v-if="wrong" class="text-sm font-semibold whitespace-normal text-alarm" role="alert">{{ wrong }}</p>
  </div>
</template>
