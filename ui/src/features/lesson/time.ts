// Times of a lesson, as they are shown.
import { timeOf } from '@/shared/when';

/** Whole minutes until a time, upward; negative once it is past. */
export const left = (at: string, now: Date | number) => Math.ceil((Date.parse(at) - Number(now)) / 60_000);

/** Whole minutes since a time. */
export const since = (at: string, now: Date | number) =>
  Math.max(0, Math.floor((Number(now) - Date.parse(at)) / 60_000));

export const clock = timeOf;
