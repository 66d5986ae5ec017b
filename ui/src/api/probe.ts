// A probe that is joined to a notebook through the server.
import { answer, api, type Schemas } from '@/api/client';

export type LiveProbe = Schemas['LiveProbe'];
const at = (id: string) => ({ params: { path: { id } } });

export const liveProbe = (id: string) => answer(api.GET('/notebooks/{id}/probe', at(id)));
export const probeToken = async (id: string) => (await answer(api.POST('/notebooks/{id}/probe/token', at(id)))).token;
/** Joins the simulated probe of the demo, or tells it where the burette stands. */
export const simulate = (id: string, burette = '') =>
  answer(api.POST('/notebooks/{id}/probe/simulated', { ...at(id), body: { burette } }));
export const leaveProbe = (id: string) => answer(api.DELETE('/notebooks/{id}/probe', at(id)));
