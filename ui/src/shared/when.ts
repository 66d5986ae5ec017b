// Moments as the reader's language writes them, in one way everywhere: the month in letters, the year
// only where it is another one.
import { dates } from '@/words';

const options = (at: Date): Intl.DateTimeFormatOptions => ({
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  ...(at.getFullYear() !== new Date().getFullYear() && { year: 'numeric' }),
});

/** A day and the time in it. */
export function whenIs(moment: string | Date): string {
  const at = new Date(moment);
  return at.toLocaleString(dates(), { ...options(at), hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
}

/** A day and the time in it to the second, as a log has it; or the time alone. */
export function secondOf(moment: string | Date, alone = false): string {
  const at = new Date(moment);
  return at.toLocaleString(dates(), {
    ...(!alone && options(at)),
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
    hourCycle: 'h23',
  });
}

/** A time of the day. */
export const timeOf = (moment: string | Date) =>
  new Date(moment).toLocaleTimeString(dates(), { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });

/** A day. */
export function dayOf(moment: string | Date): string {
  const at = new Date(moment);
  return at.toLocaleDateString(dates(), options(at));
}

/** A text of the server in which {at} stands for a moment. */
export const withMoment = (text: string, at?: string) => (at ? text.replace('{at}', whenIs(at)) : text);

const steps: [Intl.RelativeTimeFormatUnit, number][] = [
  ['day', 86_400_000],
  ['hour', 3_600_000],
  ['minute', 60_000],
];

/** How far a moment is from another: 5 days ago, in 2 hours. */
export function fromNow(moment: string, now: string): string {
  const by = new Date(moment).getTime() - new Date(now).getTime();
  const [unit, size] = steps.find(([, ms]) => Math.abs(by) >= ms) ?? steps.at(-1)!;
  return new Intl.RelativeTimeFormat(dates(), { numeric: 'auto' }).format(Math.trunc(by / size), unit);
}
