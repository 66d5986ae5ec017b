// What a person likes at the bench, on this device: one state for every part of the page.
import { effectScope, ref, watch, type Ref } from 'vue';
import { mine } from '@/device/owner';
import { readValue, write } from '@/device/storage';

type Settings = { keys: boolean; sound: boolean; guided: boolean };
const usual: Settings = { keys: true, sound: true, guided: false };
let now: { place: string; settings: Ref<Settings> } | undefined;

export function useSettings(): Ref<Settings> {
  const place = mine('setting') + 'bench';
  if (now?.place === place) return now.settings;
  const settings = ref<Settings>({ ...usual, ...readValue<Partial<Settings>>(place) });
  // It outlives the part of the page that asked first.
  effectScope(true).run(() => watch(settings, (value) => write(place, value), { deep: true, flush: 'sync' }));
  now = { place, settings };
  return settings;
}
