<script setup lang="ts">
// The limits of common practice by groups: what is typed here holds, what is left empty is
// as in the wider circle. What they are, and between what they may lie, is said by the core.
import type { Schemas } from '@/api/client';
import { say } from '@/words';

const props = defineProps<{ groups: Schemas['NormGroup'][]; fault?: { path: string; text: string } }>();
/** Those that are said here, by name. */
const own = defineModel<Record<string, string>>({ required: true });

function write(name: string, typed: string) {
  const now = { ...own.value, [name]: typed.replace(',', '.').trim() };
  if (!now[name]) delete now[name];
  own.value = now;
}
const here = (g: Schemas['NormGroup']) => g.norms.filter((n) => n.name in own.value).length;
const wrong = (name: string) => (props.fault?.path.endsWith(`norms.${name}`) ? props.fault.text : '');
</script>

<template>
  <div class="grid gap-2">
    <p class="text-sm text-quiet">{{ say('norms.how') }}</p>
    <details v-for="g in groups" :key="g.group" class="group border-t border-hair" :data-test="`norms-${g.group}`">
      <summary class="flex min-h-11 items-center justify-between gap-2">
        <span class="font-semibold"
          ><span class="inline-block group-open:rotate-90" aria-hidden="true">▸</span> {{ g.about }}</span
        >
        <span class="text-sm text-quiet">{{ say('norms.here', {}, here(g)) }}</span>
      </summary>
      <div v-for="n in g.norms" :key="n.name" class="grid grid-cols-[1fr_9rem] gap-x-3 border-t border-hair py-2">
        <label :for="`norm-${n.name}`" class="min-w-0">
          <span class="block font-semibold">{{ n.label }}</span>
          <span :id="`norm-${n.name}-why`" class="block text-sm text-quiet">{{ n.why }}</span>
        </label>
        <div>
          <div class="flex items-center gap-1">
            <input
              :id="`norm-${n.name}`"
              class="field figure min-w-0 text-right"
              inputmode="decimal"
              maxlength="12"
              :value="own[n.name] ?? ''"
              :placeholder="n.else"
              :aria-describedby="`norm-${n.name}-why`"
              :aria-invalid="!!wrong(n.name)"
              @change="write(n.name, ($event.target as HTMLInputElement).value)"
            />
            <span class="w-9 shrink-0">{{ n.unit }}</span>
          </div>
          <p class="text-sm text-quiet">{{ n.range }}</p>
        </div>
        <p v-if="wrong(n.name)" class="col-span-2 text-sm font-semibold text-alarm" role="alert">{{ wrong(n.name) }}</p>
      </div>
    </details>
  </div>
</template>
