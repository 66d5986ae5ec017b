import { describe, expect, it } from 'vitest';
import { scaled } from './shrink';

describe('a picture', () => {
  it('is scaled down to its longest side, and never up', () => {
    expect(scaled(4000, 3000)).toEqual([1600, 1200]);
    expect(scaled(3000, 4000)).toEqual([1200, 1600]);
    expect(scaled(640, 480)).toEqual([640, 480]);
    expect(scaled(100_000, 3)).toEqual([1600, 1]);
  });
});
