// What answers of the server are remembered under.
export const keys = {
  about: ['about'] as const,
  shelf: ['shelf'] as const,
  home: ['home'] as const,
  classPracticals: (id: string) => ['class', id, 'practicals'] as const,
  stations: (at: { class: string; practical: string }) => ['stations', at.class, at.practical] as const,
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
