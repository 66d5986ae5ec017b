<script setup lang="ts">
// The curve of a run. It draws what the core says; the pointer and the arrow keys pick a
// point, which is then read out beneath.
import { LineChart, ScatterChart } from 'echarts/charts';
import { AriaComponent, GridComponent, MarkAreaComponent, MarkLineComponent } from 'echarts/components';
import { init, use, type ECharts } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEventListener, useMutationObserver, useResizeObserver, useThrottleFn } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { option, standing, type Look, type Lower, type Run, type RunPoint } from '@/features/curve/chart';
import { say } from '@/words';

use([LineChart, ScatterChart, GridComponent, MarkLineComponent, MarkAreaComponent, AriaComponent, SVGRenderer]);

const props = defineProps<{
  run?: Run;
  points: RunPoint[];
  others: RunPoint[][]; // of the other runs
  predicted: { v: number; y: number }[];
  axis: string;
  volume: string;
  lower: Lower;
  large?: boolean;
}>();
const picked = defineModel<string>('picked');
const box = ref<HTMLElement>();
const chart = shallowRef<ECharts>();
const stands = computed(() => standing(props.points));

const look = shallowRef<Look>();
function readLook() {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue('--' + name).trim();
  look.value = {
    ink: of('ink'),
    quiet: of('quiet'),
    hair: of('hair'),
    accent: of('accent'),
    agree: of('agree'),
    end: of('end'),
    tint: of('tint'),
  };
}

// Drawn once a frame, however often something changes.
let frame = 0;
function draw() {
  if (frame) return;
  frame = requestAnimationFrame(() => {
    frame = 0;
    drawNow();
  });
}
function drawNow() {
  if (!chart.value || !look.value) return;
  const size = props.large ? 16 : 13;
  chart.value.setOption(option({ ...props, look: look.value, size, picked: picked.value }), { notMerge: true });
}

// Printed it is dark on white, whatever the screen is.
useEventListener(window, 'beforeprint', () => {
  const { theme } = document.documentElement.dataset;
  document.documentElement.dataset.theme = 'light';
  readLook();
  document.documentElement.dataset.theme = theme;
  drawNow();
});
useEventListener(window, 'afterprint', () => {
  readLook();
  draw();
});

onMounted(() => {
  readLook();
  chart.value = init(box.value!, undefined, { renderer: 'svg' });
  chart.value.getZr().on('click', (e) => pick(nearest(e.offsetX, e.offsetY)));
  const hover = useThrottleFn((x: number, y: number) => {
    const p = nearest(x, y, 12);
    if (p) pick(p);
  }, 50);
  chart.value.getZr().on('mousemove', (e) => void hover(e.offsetX, e.offsetY));
  draw();
});
onBeforeUnmount(() => {
  cancelAnimationFrame(frame);
  chart.value?.dispose();
});
useResizeObserver(box, () => chart.value?.resize());
useMutationObserver(
  document.documentElement,
  () => {
    readLook();
    draw();
  },
  { attributes: true, attributeFilter: ['data-theme'] },
);
watch(() => [props.run, props.points, props.others, props.predicted, props.lower, props.large, picked.value], draw);

/** The point that lies nearest to a place in the picture, if it is near. */
function nearest(x: number, y: number, within = 30): RunPoint | undefined {
  let best: RunPoint | undefined;
  let least = within;
  for (const p of stands.value) {
    const at = chart.value?.convertToPixel({ gridIndex: 0 }, [p.v, p.y]);
    if (!at) continue;
    const away = Math.hypot(at[0]! - x, at[1]! - y);
    if (away < least) [best, least] = [p, away];
  }
  return best;
}
function pick(p: RunPoint | undefined) {
  picked.value = p?.entry;
}
function step(by: number) {
  const list = stands.value;
  if (!list.length) return;
  const at = list.findIndex((p) => p.entry === picked.value);
  const from = at < 0 ? (by > 0 ? -1 : list.length) : at; // none yet: as from beside the first or the last
  pick(list[Math.min(list.length - 1, Math.max(0, from + by))]);
}
function keys(e: KeyboardEvent) {
  const by = { ArrowRight: 1, ArrowLeft: -1, PageDown: 10, PageUp: -10, Home: -1e6, End: 1e6 }[e.key];
  if (!by) return;
  step(by);
  e.preventDefault();
}
/** The picture as it stands, for a file. */
const svg = () => chart.value?.renderToSVGString() ?? '';
defineExpose({ svg });
</script>

<template>
  <div
    ref="box"
    class="h-[23rem] w-full"
    role="application"
    tabindex="0"
    :aria-label="say('curve.keys', { count: stands.length })"
    data-test="curve"
    @keydown="keys"
  ></div>
</template>
