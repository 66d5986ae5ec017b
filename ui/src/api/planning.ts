// What the plan asks the server: what follows from a draft, the questions before
// the laboratory, and the two tools of the preparation room.
import { useQuery } from '@tanstack/vue-query';
import { answer, api, type Schemas } from '@/api/client';
import { base64 } from '@/shared/base64';

type Practical = Schemas['Practical'];
type Group = { students: number; trials: number; spare: number; bottle: number };
export type Prepared = { mass?: number; low?: number; high?: number; exact?: number };
export type Dilution = {
  steps: { pipette: number; flask: number }[];
  gives: number;
  off: number;
  uncertainty: number;
};

export function planOf(classId: string, practical: string, query: Group) {
  const path = { class: classId, practical };
  return answer(api.GET('/classes/{class}/practicals/{practical}/plan', { params: { path, query } }));
}

export function assess(classId: string, practical: Practical, { bottle, ...group }: Group) {
  const body = { practical, for: classId, class: { ...group, ...(bottle && { bottle }) } };
  return answer(api.POST('/plan', { body }));
}

/** What a student will see and be asked. */
export const dryRun = (classId: string, practical: Practical) =>
  answer(api.POST('/plan/dry-run', { body: { practical, for: classId } }));

export async function setToClass(classId: string, practical: Practical): Promise<Practical> {
  const params = { path: { class: classId } };
  return (await answer(api.POST('/classes/{class}/practicals', { params, body: { practical } }))).practical;
}

export function useLibrary() {
  return useQuery({
    queryKey: ['library'],
    queryFn: async () => (await answer(api.GET('/library'))).practicals,
    refetchOnMount: 'always',
  });
}

export async function libraryPractical(id: string, revision = 0): Promise<Practical> {
  return (await answer(api.GET('/library/{id}', { params: { path: { id }, query: { revision } } }))).practical;
}

/** The practical of an open document. */
export async function readPractical(document: Uint8Array): Promise<Practical> {
  return (await answer(api.POST('/library/read', { body: { document: base64(document) } }))).practical;
}

export function answerQuestion(classId: string, practical: string, code: string, given: string) {
  return answer(
    api.POST('/classes/{class}/practicals/{practical}/questions', {
      params: { path: { class: classId, practical } },
      body: { code, answer: given },
    }),
  );
}

async function calculate<T>(name: string, body: unknown): Promise<T> {
  return (await answer(api.POST('/calc/{name}', { params: { path: { name } }, body: body as never }))) as T;
}

/** The mass to weigh for a solution, and the exact concentration of what was weighed. */
export const prepareSolid = (of: { formula: string; concentration: number; volume: number; weighed?: number }) =>
  calculate<Prepared>('prepare', of);

/** The best ways to dilute, mol/L. */
export const dilute = (from: number, to: number) => calculate<{ ways: Dilution[] }>('dilute', { from, to });
