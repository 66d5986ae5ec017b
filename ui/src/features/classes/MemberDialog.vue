<script setup lang="ts">
// A person's role and place in a class; out of it, or into another one.
import { computed, ref } from 'vue';
import { takeIn } from '@/api/reports';
import { useClasses, type ClassPage, type Member } from '@/api/classes';
import { useClassChange } from '@/features/classes/changes';
import AppDialog from '@/shared/AppDialog.vue';
import SelectField from '@/shared/SelectField.vue';
import TextField from '@/shared/TextField.vue';
import { say } from '@/words';

const props = defineProps<{ page: ClassPage; member: Member }>();
const emit = defineEmits<{ close: [] }>();
const change = useClassChange(() => props.page.id);
const { data: classes } = useClasses();

const role = ref(props.member.role);
const place = ref({
  bench: props.member.bench,
  burette: props.member.burette,
  sample: props.member.sample,
});
const partner = ref(props.member.partner ?? '');
const to = ref('');
const sure = ref(false);
const places = ['bench', 'burette', 'sample'] as const;

const roles = (['student', 'assistant', 'instructor'] as const).map((value) => ({ value, text: say(`role.${value}`) }));
const partners = computed(() => [
  { value: '', text: say('class.alone') },
  ...props.page.people
    .filter((o) => o.role === 'student' && o.id !== props.member.id)
    .map((o) => ({ value: o.id, text: o.name })),
]);
const others = computed(
  () => classes.value?.filter((c) => c.role === 'instructor' && !c.archived && c.id !== props.page.id) ?? [],
);

const then = (done: Promise<unknown>) =>
  done.then(
    () => emit('close'),
    () => undefined, // said below
  );
const save = () =>
  then(
    change.mutateAsync((a) =>
      a.place(props.member.id, {
        role: role.value,
        ...place.value,
        partner: role.value === 'student' ? partner.value : '',
      }),
    ),
  );
const taken = ref<{ text: string; failed: boolean }>();
async function take(e: Event) {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file) return;
  try {
    const { entries } = await takeIn(props.page.id, props.member.id, file);
    taken.value = { text: say('member.imported', {}, entries), failed: false };
  } catch (e) {
    taken.value = { text: e instanceof Error ? e.message : String(e), failed: true };
  }
}
const remove = () => then(change.mutateAsync((a) => a.remove(props.member.id)));
const name = ref(props.member.name);
const rename = () => then(change.mutateAsync((a) => a.rename(props.member.id, name.value)));
const move = () => then(change.mutateAsync((a) => a.move(props.member.id, to.value)));
</script>

<template>
  <AppDialog :title="member.name" @close="$emit('close')">
    <form class="grid grid-cols-2 gap-3" @submit.prevent="save">
      <SelectField v-model="role" class="col-span-2" :label="say('class.role')" :options="roles" />
      <template v-if="role === 'student'">
        <TextField
          v-for="field in places"
          :key="field"
          v-model="place[field]"
          :name="`place-${field}`"
          :label="say(`class.${field}`)"
          figure
          maxlength="20"
        />
        <SelectField v-model="partner" :label="say('class.partner')" :options="partners" />
      </template>
      <p v-if="change.error.value" role="alert" class="col-span-2 text-alarm">{{ change.error.value.message }}</p>
      <button type="submit" class="button-main col-span-2" :disabled="change.isPending.value">
        {{ say('class.keep') }}
      </button>
    </form>
    <hr class="my-4 border-hair" />
    <form v-if="member.role === 'student'" class="mb-4 flex items-end gap-2" @submit.prevent="rename">
      <TextField v-model="name" name="member-name" :label="say('person.name')" class="grow" required maxlength="80" />
      <button type="submit" class="button" :disabled="change.isPending.value">{{ say('member.rename') }}</button>
    </form>
    <form v-if="member.role === 'student' && others.length" class="mb-4 flex items-end gap-2" @submit.prevent="move">
      <div class="grow">
        <label class="label" for="move-to">{{ say('class.moveTo') }}</label>
        <select id="move-to" v-model="to" class="field" required>
          <option v-for="c in others" :key="c.id" :value="c.id">{{ c.name }} {{ c.term }}</option>
        </select>
      </div>
      <button type="submit" class="button">{{ say('class.move') }}</button>
    </form>
    <label v-if="member.role === 'student'" class="button mb-3 w-full cursor-pointer focus-within:border-accent">
      {{ say('member.import') }}
      <input type="file" accept=".json,.zip" class="sr-only" data-test="import" @change="take" />
    </label>
    <p v-if="taken" class="mb-3" :class="taken.failed ? 'font-semibold text-alarm' : 'text-agree'" role="status">
      {{ taken.text }}
    </p>
    <button v-if="!sure" type="button" class="button w-full" @click="sure = true">{{ say('class.remove') }}</button>
    <div v-else class="grid gap-2">
      <p>{{ say('class.removeSure', { name: member.name }) }}</p>
      <button type="button" class="button text-alarm" @click="remove">{{ say('class.removeGo') }}</button>
    </div>
  </AppDialog>
</template>
