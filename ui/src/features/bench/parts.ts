// What belongs to a bench and comes after it has been painted.
import { later } from '@/shared/later';

export const BenchBelow = later(() => import('@/features/bench/BenchBelow.vue'));
export const BenchDialogs = later(() => import('@/features/bench/BenchDialogs.vue'));
export const ChooseDialog = later(() => import('@/features/bench/dialogs/ChooseDialog.vue'));
export const MakingDesk = later(() => import('@/features/bench/MakingDesk.vue'));
export const TextDialog = later(() => import('@/features/bench/dialogs/TextDialog.vue'));
export const WaitingDialog = later(() => import('@/features/bench/dialogs/WaitingDialog.vue'));
