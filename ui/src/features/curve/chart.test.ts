import { describe, expect, it } from 'vitest';
import { option, reach, standing, type Drawn, type RunPoint } from './chart';

const look = { ink: '#000', quiet: '#555', hair: '#ccc', accent: '#609', agree: '#065', end: '#b15', tint: '#fef' };
const point = (v: number, y: number, more: Partial<RunPoint> = {}): RunPoint => ({
  trial: 'run',
  entry: `e${v}`,
  burette: v.toFixed(2),
  shown: y.toFixed(2),
  at: '2026-11-26T10:00:00Z',
  v,
  y,
  ...more,
});
const drawn = (n: number, more: Partial<Drawn> = {}): Drawn => ({
  points: Array.from({ length: n }, (_, i) => point(i / 10, 4 + i / 100)),
  predicted: [
    { v: 0, y: 3 },
    { v: 40, y: 12 },
  ],
  axis: 'pH',
  volume: 'mL',
  lower: 'slope',
  look,
  size: 13,
  ...more,
});
type Series = { name?: string; data: unknown[]; showSymbol?: boolean; xAxisIndex?: number };
const named = (d: Drawn, name: string) => (option(d).series as Series[]).filter((s) => s.name === name);

describe('the curve', () => {
  it('draws what stands, and what was struck apart from it', () => {
    const d = drawn(3, { points: [point(0, 4), point(1, 9, { withdrawn: true }), point(2, 5)] });
    expect(standing(d.points)).toHaveLength(2);
    expect(named(d, 'measured')[0]!.data).toHaveLength(2);
    expect(named(d, 'struck')[0]!.data).toEqual([[1, 9]]);
  });

  it('draws many points as one line, with the one that is picked', () => {
    expect(named(drawn(300), 'measured')[0]!.showSymbol).toBe(true);
    const d = drawn(2000, { picked: 'e12.5' });
    expect(named(d, 'measured')[0]!.showSymbol).toBe(false);
    expect(named(d, 'picked')[0]!.data).toEqual([[12.5, 5.25]]);
  });

  it('reaches as far as something ran, or is expected', () => {
    expect(reach({ points: [], predicted: [] })).toEqual({ to: 1, step: 0.5 });
    expect(reach({ points: [], predicted: [{ v: 40, y: 1 }] }).to).toBe(30);
    expect(reach({ points: [point(38, 1)], predicted: [{ v: 40, y: 1 }] }).to).toBe(40);
  });

  it('draws beneath what is chosen, on the same volumes', () => {
    const run = {
      slopes: [{ volume: 1, reading: 2 }],
      residuals: [{ volume: 1, reading: 0.1 }],
      gran: [{ method: 'gran-before', points: [{ volume: 1, reading: 1 }], zero: 2, at: 1, value: 1 }],
      colours: [],
      used: { volume: 2, low: 1.9, high: 2.1 },
    } as unknown as Drawn['run'];
    const beneath = (lower: Drawn['lower']) =>
      (option(drawn(5, { run, lower })).series as Series[]).filter((s) => s.xAxisIndex === 1).map((s) => s.data);
    expect(beneath('slope')).toEqual([[[1, 2]]]);
    expect(beneath('residuals')).toEqual([[[1, 0.1]]]);
    expect(beneath('gran')).toEqual([
      [[1, 1]],
      [
        [1, 1],
        [2, 0],
      ],
    ]);
  });
});
