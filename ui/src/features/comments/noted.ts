// The notebook whose entries are shown: so that each place finds what was said beside it.
import type { InjectionKey, Ref } from 'vue';
import type { Notebook } from '@/api/client';

export const noted: InjectionKey<Ref<Notebook | undefined>> = Symbol('noted');
