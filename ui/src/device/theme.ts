// The theme is kept on the device too, so that the first paint has it.
import { readValue, write } from '@/device/storage';

export type Theme = 'system' | 'light' | 'dark';

const place = 'exactflask.theme';
const dark = window.matchMedia('(prefers-color-scheme: dark)');
let current: Theme = 'system';

export function rememberedTheme(): Theme {
  const kept = readValue<string>(place);
  return kept === 'light' || kept === 'dark' ? kept : 'system';
}

export function applyTheme(theme: Theme) {
  current = theme;
  write(place, theme);
  const isDark = theme === 'dark' || (theme === 'system' && dark.matches);
  document.documentElement.dataset.theme = isDark ? 'dark' : 'light';
}

dark.addEventListener('change', () => applyTheme(current));
