// For tests: a practical that begins, as the core sends it.
import type { Practical } from './draft';

export const fresh = (): Practical => ({
  id: 'fresh',
  revision: 1,
  title: '',
  chemistry: {
    equation: 'HCl + NaOH -> NaCl + H2O',
    titrant: { name: 'sodium hydroxide', formula: 'NaOH', concentration: '0.100' },
    analyte: { name: 'hydrochloric acid', formula: 'HCl', approximate: '0.100' },
    indicator: 'phenolphthalein',
  },
  route: [{ kind: 'pipette', volume: '25.00', class: 'B' }],
  glass: { burette: { capacity: '50.00', division: '0.1', class: 'B' } },
  rules: { readings: { resolution: 'half' }, agreement: { tolerance: '0.10', need: 2 } },
  showing: { results: 'always' },
});
