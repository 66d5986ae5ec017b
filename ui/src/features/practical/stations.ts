// The stations of a practical in a class, and the views where they are.
import type { Schemas } from '@/api/client';

export type Station = Schemas['StationState']['station'];

export const stationNames: Station[] = ['plan', 'set', 'prepare', 'lesson', 'answers', 'marking', 'results'];

const views: Record<Station, string> = {
  plan: 'plan',
  set: 'setting',
  prepare: 'prepare',
  lesson: 'board',
  answers: 'answers',
  marking: 'marking',
  results: 'results',
};

/** Where a station is. */
export const toStation = (station: Station, at: { class: string; practical: string }) => ({
  name: views[station],
  params: { classId: at.class, practical: at.practical },
});
