// What answers of the server are remembered under.
export const keys = {
  about: ['about'] as const,
  shelf: ['shelf'] as const,
  notebook: (id: string) => ['notebook', id] as const,
  catalogue: ['catalogue'] as const,
  report: (id: string) => ['report', id] as const,
  ownMarks: (id: string) => ['own-marks', id] as const,
  journal: (id: string) => ['journal', id] as const,
  signIns: ['sign-ins'] as const,
  classes: ['classes'] as const,
  class: (id: string) => ['class', id] as const,
  people: ['people'] as const,
  acts: (id: string) => ['acts', id] as const,
};
