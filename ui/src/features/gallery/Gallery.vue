<script setup lang="ts">
// For those who build it: every shared component in its states, on one page. With the demo alone.
import { ref } from 'vue';
import { useAbout } from '@/api/queries';
import MiniBurette from '@/features/shelf/MiniBurette.vue';
import AppDialog from '@/shared/AppDialog.vue';
import ChoiceGroup from '@/shared/ChoiceGroup.vue';
import MenuButton from '@/shared/MenuButton.vue';
import Nowhere from '@/shared/Nowhere.vue';
import PickField from '@/shared/PickField.vue';
import RoutePicture from '@/shared/RoutePicture.vue';
import SelectField from '@/shared/SelectField.vue';
import StationLine from '@/shared/StationLine.vue';
import TextField from '@/shared/TextField.vue';
import Trouble from '@/shared/Trouble.vue';
import Waiting from '@/shared/Waiting.vue';
import { say } from '@/words';

const { data: about } = useAbout();
const text = ref('0.1035');
const chosen = ref('b');
const open = ref(false);
const options = [
  { value: 'a', text: 'HCl', group: '1', more: 'HCl + NaOH → NaCl + H₂O' },
  { value: 'b', text: 'CH₃COOH', group: '1', more: 'CH₃COOH + NaOH → CH₃COONa + H₂O' },
  { value: 'c', text: 'MnO₄⁻', group: '2', more: 'MnO₄⁻ + 5 Fe²⁺ + 8 H⁺ → Mn²⁺ + 5 Fe³⁺ + 4 H₂O' },
];
const stations = [
  { key: 'a', name: 'A', text: '3', to: { name: 'gallery' } },
  { key: 'b', name: 'B', text: '12', needs: true, to: { name: 'gallery' } },
  { key: 'c', name: 'C', text: '–' },
];
const route = [
  { kind: 'weigh', name: 'CaCO₃', amount: '1.25 g' },
  { kind: 'tablets', name: 'C₆H₈O₇', amount: '2' },
  { kind: 'excess', name: 'HCl', amount: '50.00 mL' },
  { kind: 'make-up', name: 'H₂O', amount: '250.0 mL' },
  { kind: 'flask', name: 'A', amount: '25.00 mL', factor: '250.0/25.00' },
];
const bands = [
  { from: '0.00', to: '23.10', titre: '23.10', state: 'rough' as const },
  { from: '0.00', to: '22.55', titre: '22.55', state: 'counts' as const },
  { from: '22.55', to: '44.90', titre: '22.35', state: 'pending' as const },
  { from: '0.00', to: '26.00', titre: '26.00', state: 'aside' as const },
];
const ways = ['a', 'b', 'c'].map((value) => ({ value, text: value.toUpperCase() }));
</script>

<template>
  <Nowhere v-if="about && !about.demo" />
  <div v-else class="grid gap-6">
    <h1 class="sr-only">{{ say('title.gallery') }}</h1>
    <section class="sheet grid gap-2">
      <h2 class="figure">StationLine</h2>
      <StationLine
        v-for="at in ['a', 'c']"
        :key="at"
        :label="at"
        :stations="stations"
        :at="at"
        :up-to="at"
        :brief="at === 'c'"
      />
    </section>
    <div v-for="desk in [false, true]" :key="String(desk)" class="sheet grid gap-3" :class="desk && 'desk'">
      <h2 class="figure">{{ desk ? '.desk' : '.field .button .tool' }}</h2>
      <div class="flex flex-wrap items-end gap-3">
        <button type="button" class="button-main">{{ say('norms.save') }}</button>
        <button type="button" class="button-main" disabled>{{ say('norms.save') }}</button>
        <button type="button" class="button">{{ say('dialog.close') }}</button>
        <button type="button" class="button chosen">{{ say('dialog.close') }}</button>
        <button type="button" class="button" disabled>{{ say('dialog.close') }}</button>
        <button type="button" class="tool">{{ say('plan.undo') }}</button>
        <button type="button" class="tool" disabled>{{ say('plan.undo') }}</button>
        <input v-model="text" class="line-field figure w-20 text-center" aria-label=".line-field" />
        <input v-model="text" class="line-field figure w-20 text-center" aria-label=".line-field" aria-invalid="true" />
      </div>
      <div class="grid gap-3 sm:grid-cols-3">
        <TextField v-model="text" label="TextField" figure />
        <SelectField v-model="chosen" label="SelectField" :options="ways" />
        <PickField v-model="chosen" label="PickField" :options="options" :hint="say('plan.reactionHint')" />
      </div>
      <div class="flex flex-wrap items-center gap-3">
        <ChoiceGroup label="ChoiceGroup" :options="ways" :now="chosen" @choose="(v) => (chosen = v)" />
        <MenuButton label="MenuButton" :options="ways" @choose="(v) => (chosen = v)" />
        <button type="button" class="button" @click="open = true">AppDialog</button>
      </div>
    </div>
    <section class="sheet flex flex-wrap items-end gap-8">
      <div>
        <h2 class="figure">RoutePicture</h2>
        <RoutePicture :route="route" />
      </div>
      <div>
        <h2 class="figure">MiniBurette</h2>
        <MiniBurette :capacity="50" :bands="bands" />
      </div>
    </section>
    <section class="sheet grid gap-6 lg:grid-cols-3">
      <div>
        <h2 class="figure">Waiting</h2>
        <Waiting />
      </div>
      <div>
        <h2 class="figure">Trouble</h2>
        <Trouble :error="new Error(say('common.nowhere'))" />
      </div>
      <div>
        <h2 class="figure">.sheet-strong .panel</h2>
        <p class="sheet-strong">{{ say('result.notYet') }}</p>
        <p class="panel p-3">{{ say('result.notYet') }}</p>
      </div>
    </section>
    <AppDialog v-if="open" title="AppDialog" @close="open = false">
      <p>{{ say('result.notYet') }}</p>
    </AppDialog>
  </div>
</template>
