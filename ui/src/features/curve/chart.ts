// What is drawn of a run: the curve over the one that is expected, and beneath it, on the
// same volumes, slope, Gran's lines or residuals. Nothing is worked out here.
import type { Schemas } from '@/api/client';
import { say } from '@/words';

export type RunPoint = Schemas['RunPoint'];
export type Run = Schemas['Run'];
export const lowers = ['slope', 'gran', 'residuals'] as const;
export type Lower = (typeof lowers)[number];

export type Look = {
  ink: string;
  quiet: string;
  hair: string;
  accent: string;
  agree: string;
  end: string;
  tint: string;
};
export type Drawn = {
  run?: Run;
  points: RunPoint[];
  others?: RunPoint[][]; // of the other runs
  predicted: { v: number; y: number }[];
  axis: string; // name and unit of the readings
  volume: string; // unit
  lower: Lower;
  look: Look;
  size: number; // of letters, px
  picked?: string; // entry of a point
};

/** A number of an axis: a true minus, and no sign between its thousands. */
const plain = (v: number) => String(Number(v.toPrecision(6))).replace('-', '−');

type Pair = [number, number];
const pairs = (list: { volume: number; reading: number }[] = []): Pair[] => list.map((p) => [p.volume, p.reading]);

/** The readings that stand. */
export const standing = (points: RunPoint[]) => points.filter((p) => !p.withdrawn);

/** How far the volumes are drawn: what ran, and what is expected as long as it is not far beyond. */
export function reach(d: Pick<Drawn, 'points' | 'predicted'>): { to: number; step: number } {
  const ran = Math.max(0, ...d.points.map((p) => p.v));
  const expected = d.predicted.at(-1)?.v ?? 0;
  const to = Math.max(ran * 1.05, expected * 0.65, 1);
  const step = [0.5, 1, 2, 5, 10, 20, 50].find((s) => to / s <= 8) ?? 100;
  return { to: Math.ceil(to / step) * step, step };
}

const many = 300;

/** What ECharts is to draw. */
export function option(d: Drawn) {
  const { look } = d;
  const text = { color: look.ink, fontSize: d.size, fontFamily: 'inherit' };
  const axis = {
    axisLine: { show: true, lineStyle: { color: look.ink } },
    axisTick: { show: true, lineStyle: { color: look.ink } },
    axisLabel: { ...text, hideOverlap: true, formatter: plain },
    nameTextStyle: { ...text, fontWeight: 600 },
    splitLine: { lineStyle: { color: look.hair, opacity: 0.6 } },
  };
  const { to, step } = reach(d);
  const used = d.run?.used;
  const stands = standing(d.points);
  // So many points lie closer than their marks: they are one line.
  const dense = stands.length > many;
  const picked = stands.find((p) => p.entry === d.picked);
  const lower: object[] = [];
  const below = (more: object) => lower.push({ xAxisIndex: 1, yAxisIndex: 1, ...more });
  if (d.lower === 'slope')
    below({
      type: 'line',
      data: pairs(d.run?.slopes),
      symbolSize: 5,
      lineStyle: { color: look.agree, width: 2 },
      itemStyle: { color: look.agree },
    });
  else if (d.lower === 'residuals')
    below({
      type: dense ? 'line' : 'scatter',
      data: pairs(d.run?.residuals),
      symbol: dense ? 'none' : 'circle',
      lineStyle: { color: look.agree, width: 1 },
      symbolSize: 6,
      itemStyle: { color: look.agree },
      markLine: {
        symbol: 'none',
        silent: true,
        label: { show: false },
        lineStyle: { color: look.ink, type: 'solid' },
        data: [{ yAxis: 0 }],
      },
    });
  else
    (d.run?.gran ?? []).forEach((g, i) => {
      const color = i ? look.accent : look.agree;
      below({
        type: 'scatter',
        data: pairs(g.points),
        symbolSize: dense ? 2 : 6,
        symbol: i ? 'rect' : 'circle',
        itemStyle: { color },
      });
      below({
        type: 'line',
        data: [
          [g.at, g.value],
          [g.zero, 0],
        ],
        symbol: 'none',
        lineStyle: { color, width: 2 },
      });
    });
  return {
    animation: false,
    textStyle: { fontFamily: 'inherit' },
    aria: { enabled: true, label: { description: say('curve.aria', { count: stands.length, axis: d.axis }) } },
    tooltip: { show: false },
    grid: [
      { left: 78, right: 16, top: 14, bottom: '39%' },
      { left: 78, right: 16, top: '68%', bottom: 46 },
    ],
    xAxis: [
      { type: 'value', min: 0, max: to, interval: step, ...axis, axisLabel: { show: false } },
      {
        type: 'value',
        gridIndex: 1,
        min: 0,
        max: to,
        interval: step,
        ...axis,
        name: say('curve.volume', { unit: d.volume }),
        nameLocation: 'middle',
        nameGap: 28,
      },
    ],
    yAxis: [
      { type: 'value', scale: true, ...axis, name: d.axis, nameLocation: 'middle', nameGap: 56 },
      {
        type: 'value',
        gridIndex: 1,
        scale: d.lower === 'residuals',
        ...axis,
        splitNumber: 3,
        name: say(`curve.lower.${d.lower}`),
        nameLocation: 'middle',
        nameGap: 56,
      },
    ],
    series: [
      {
        type: 'line',
        name: 'predicted',
        data: d.predicted.filter((p) => p.v <= to).map((p) => [p.v, p.y]),
        symbol: 'none',
        silent: true,
        lineStyle: { color: look.quiet, width: 2, type: 'dashed' },
      },
      ...(d.others ?? []).map((points) => ({
        type: 'line',
        name: 'other',
        data: standing(points).map((p) => [p.v, p.y]),
        symbol: 'none',
        silent: true,
        lineStyle: { color: look.quiet, width: 1.5, opacity: 0.5 },
      })),
      {
        type: 'line',
        name: 'measured',
        data: dense
          ? stands.map((p) => [p.v, p.y])
          : stands.map((p) => ({
              value: [p.v, p.y],
              symbol: p.unsteady ? 'emptyCircle' : 'circle',
              symbolSize: 8,
            })),
        showSymbol: !dense,
        clip: false,
        lineStyle: { color: look.accent, width: dense ? 2.5 : 1.5, opacity: dense ? 1 : 0.6 },
        itemStyle: { color: look.accent },
        markLine: used
          ? {
              symbol: 'none',
              silent: true,
              lineStyle: { color: look.end, width: 2, type: 'solid' },
              label: {
                ...text,
                color: look.end,
                fontWeight: 600,
                position: 'insideEndTop',
                formatter: used.volume!.toFixed(2),
                rotate: 0,
                distance: [4, 2],
              },
              data: [{ xAxis: used.volume }],
            }
          : undefined,
        markArea: used
          ? {
              silent: true,
              itemStyle: { color: look.end, opacity: 0.14 },
              data: [[{ xAxis: used.low }, { xAxis: used.high }]],
            }
          : undefined,
      },
      {
        type: 'scatter',
        name: 'struck',
        data: d.points.filter((p) => p.withdrawn).map((p) => [p.v, p.y]),
        symbol: 'path://M-4,-4L4,4M-4,4L4,-4',
        symbolSize: 9,
        itemStyle: { color: 'none', borderColor: look.quiet, borderWidth: 2 },
      },
      {
        type: 'scatter',
        name: 'colours',
        data: pairs(d.run?.colours),
        symbol: 'diamond',
        symbolSize: 14,
        itemStyle: { color: look.end },
      },
      {
        type: 'scatter',
        name: 'picked',
        silent: true,
        data: picked ? [[picked.v, picked.y]] : [],
        symbolSize: 15,
        itemStyle: { color: 'none', borderColor: look.ink, borderWidth: 3 },
      },
      ...lower,
    ],
  };
}
