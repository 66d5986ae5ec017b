import { describe, expect, it } from 'vitest';
import { rounded } from './rounded';

describe('rounded', () => {
  it.each([
    [0.225, 2, '0.23'],
    [0.2249, 2, '0.22'],
    [0.025, 2, '0.03'],
    [1.005, 2, '1.01'],
    [-0.225, 2, '−0.23'],
    [-0.004, 2, '0.00'],
    [2.5, 0, '3'],
    [1e-7, 2, '0.00'],
    [4.5e-7, 7, '0.0000005'],
    [12, 1, '12.0'],
  ])('%d to %d decimals is %s', (v, places, text) => expect(rounded(v, places)).toBe(text));
});
