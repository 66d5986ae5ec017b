<script setup lang="ts">
// What differs between two revisions of a practical, field by field.
import { useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { libraryPractical } from '@/api/planning';
import { differences } from '@/features/library/differences';
import { useSession } from '@/session/session';
import AppDialog from '@/shared/AppDialog.vue';
import SelectField from '@/shared/SelectField.vue';
import { say } from '@/words';

const session = useSession();
const props = defineProps<{ id: string; revisions: number[] }>();
defineEmits<{ close: [] }>();
const older = ref(props.revisions[1]!);
const newer = ref(props.revisions[0]!);
const options = props.revisions.map((value) => ({ value, text: say('library.revision', { n: value }) }));
const both = useQuery({
  queryKey: computed(() => ['library', props.id, older.value, newer.value]),
  queryFn: () => Promise.all([libraryPractical(props.id, older.value), libraryPractical(props.id, newer.value)]),
});
const lines = computed(() => (both.data.value ? differences(...both.data.value, { ...session.person?.units }) : []));
</script>

<template>
  <AppDialog :title="say('library.compare')" @close="$emit('close')">
    <div class="grid grid-cols-2 gap-3">
      <SelectField v-model="older" :label="say('library.older')" :options="options" />
      <SelectField v-model="newer" :label="say('library.newer')" :options="options" />
    </div>
    <p v-if="both.error.value" role="alert" class="mt-3 text-alarm">{{ both.error.value.message }}</p>
    <p v-else-if="both.data.value && !lines.length" class="mt-3">{{ say('library.same') }}</p>
    <dl class="mt-3 grid gap-2">
      <div v-for="l in lines" :key="l.path" class="border-t border-hair pt-1">
        <dt class="text-sm text-quiet">{{ l.name }}</dt>
        <dd class="wrap-anywhere">
          <s v-if="l.before">{{ l.before }}</s> {{ l.after || say('library.gone') }}
        </dd>
      </div>
    </dl>
  </AppDialog>
</template>
