// The workbook that the program writes (files/xlsx.go), read by a library that did not write it and
// that does not calculate: every figure is there as a number.
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import readXlsxFile from 'read-excel-file/node';

describe('the workbook of a report', () => {
  it('opens elsewhere, with its figures', async () => {
    const book = readFileSync('../files/testdata/workbook.xlsx');
    const sheets = await readXlsxFile(book);
    expect(sheets.map((s) => s.sheet)).toEqual(['Readings', 'Working', 'Report']);
    const [readings, working] = sheets.map((s) => s.data);
    expect(readings![3]).toContain('Titre / mL');
    const titre = readings![3]!.indexOf('Titre / mL');
    for (const row of readings!.slice(4, 7)) expect(typeof row[titre]).toBe('number');
    const figures = working!.slice(1).map((row) => row[1]);
    expect(figures.length).toBeGreaterThan(20);
    for (const figure of figures) expect(typeof figure).toBe('number');
  });
});
