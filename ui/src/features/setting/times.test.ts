import { describe, expect, it } from 'vitest';
import { whenLocal, whenTyped } from './times';

describe('times in a field for day and hour', () => {
  it('are those of the reader, and come back as they were', () => {
    for (const at of ['2026-11-25T14:30:00.000Z', '2027-03-28T00:59:00.000Z', '2027-07-01T23:05:00.000Z']) {
      expect(whenTyped(whenLocal(at))).toBe(at);
      const shown = new Date(at);
      expect(whenLocal(at).slice(11)).toBe(
        `${String(shown.getHours()).padStart(2, '0')}:${String(shown.getMinutes()).padStart(2, '0')}`,
      );
    }
  });

  it('may be left out', () => {
    expect(whenLocal(undefined)).toBe('');
    expect(whenTyped('')).toBeUndefined();
  });
});
