// Writes core/chemistry/chem/testdata/molar-masses.json: the molar mass of every formula
// of the catalogue as the library mf-parser gives it.
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import mfParser from 'mf-parser';

const { version } = createRequire(import.meta.url)('mf-parser/package.json');
const root = new URL('../../', import.meta.url);
const substances = JSON.parse(readFileSync(new URL('core/chemistry/catalog/substances.json', root)));
const masses = {};
for (const { formula } of substances) {
  // It reads water of crystallisation as a group, and charges in brackets.
  const text = formula.replace(/·(\d*)(.+)$/, (_, n, water) => `(${water})${n}`).replace(/\^.*$/, '');
  masses[formula] = new mfParser.MF(text).getInfo().mass;
}
const table = { source: `mf-parser ${version}, general-purpose library from the npm registry`, masses };
writeFileSync(new URL('core/chemistry/chem/testdata/molar-masses.json', root), JSON.stringify(table, null, 1) + '\n');
