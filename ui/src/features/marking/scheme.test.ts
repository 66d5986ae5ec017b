import { describe, expect, it } from 'vitest';
import { bandsOf, freshId, textOfBands } from '@/features/marking/scheme';

describe('a scheme as it is typed', () => {
  it('has bands that come back as they were', () => {
    const bands = [
      { within: '0.20', marks: '3' },
      { within: '0.40', marks: '2' },
    ];
    expect(textOfBands(bands)).toBe('0.20 = 3, 0.40 = 2');
    for (const text of [textOfBands(bands), '0,20=3; 0,40=2', '0.20=3;0.40=2']) expect(bandsOf(text)).toEqual(bands);
    expect(bandsOf('')).toEqual([]);
    expect(bandsOf('0.2')).toEqual([{ within: '0.2', marks: '0' }]);
  });
  it('names new criteria as nobody is named', () => {
    expect(freshId([{ id: 'own-2', rule: 'person', marks: '1' }])).toBe('own-3');
  });
});
