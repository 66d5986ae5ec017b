<script setup lang="ts">
// A group of fields behind one further step; open where something in it is wrong.
import { computed, inject, ref, watch } from 'vue';
import EditField from '@/features/plan/EditField.vue';
import { at, editing, groups, type Field, type Group } from '@/features/plan/fields';
import { useSession } from '@/session/session';
import { say, type Key } from '@/words';

const props = defineProps<{
  group: Group;
  open?: boolean;
  /** What stands in it now, where its fields do not say so. */
  now?: string;
}>();
const session = useSession();
const { practical, fault } = inject(editing)!;
const open = ref(props.open ?? false);
const fields = computed(() => (groups[props.group] as Field[]).filter((f) => !f.when || f.when(practical.value)));
/** What stands in it, said while it is closed. */
const present = computed(() => {
  if (props.now !== undefined) return props.now;
  const said = fields.value.flatMap((f) => {
    const v = at(practical.value, f.path);
    if (v === undefined || v === '' || v === false) return [];
    const label = say(`edit.${f.path}` as Key, { ...session.person?.units });
    if (v === true || f.hidden) return [label];
    if (Array.isArray(f.control)) return [say(`edit.${f.path}.${String(v)}` as Key, { ...session.person?.units })];
    return [`${label}: ${String(v)}`];
  });
  return said.length > 3
    ? say('edit.presentMore', { some: said.slice(0, 3).join(' · ') }, said.length - 3)
    : said.join(' · ');
});
watch(
  () => fault.value?.path,
  (path) => {
    if (fields.value.some((f) => f.path === path)) open.value = true;
  },
);
</script>

<template>
  <details class="border-t border-hair pt-2" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="label min-h-11">
      {{ say(`edit.group.${group}`) }}
      <span v-if="!open" class="font-normal" data-test="present">{{ present || say('edit.usual') }}</span>
    </summary>
    <div class="mt-2 grid grid-cols-2 gap-3">
      <slot name="before" />
      <EditField
        v-for="f in fields"
        :key="f.path"
        :path="f.path"
        :control="f.control"
        :class="f.wide && 'col-span-2'"
      />
      <slot />
    </div>
  </details>
</template>
