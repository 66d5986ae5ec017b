import { nextTick, ref } from 'vue';
import { describe, expect, it, vi } from 'vitest';
import { useSteps } from './useSteps';

const of = (...kinds: string[]) => ({ kinds, text: '' });

describe('what was changed', () => {
  it('is taken back a step each: a vessel at once, what is typed together', async () => {
    vi.useFakeTimers();
    const value = ref(of('pipette'));
    const steps = useSteps(value, () => value.value.kinds);
    steps.begin();
    expect(steps.canUndo.value).toBe(false);
    for (const kinds of [
      ['pipette', 'make-up'],
      ['make-up', 'pipette'],
    ]) {
      value.value = of(...kinds);
      await nextTick();
    }
    for (const text of ['a', 'ab', 'abc']) {
      value.value = { ...value.value, text };
      await nextTick();
    }
    steps.undo();
    expect(value.value).toEqual(of('make-up', 'pipette'));
    await nextTick();
    await vi.advanceTimersByTimeAsync(500); // what waited to be noted is no step any more
    steps.undo();
    expect(value.value).toEqual(of('pipette', 'make-up'));
    steps.undo();
    expect(value.value).toEqual(of('pipette'));
    expect(steps.canUndo.value).toBe(false);
    steps.undo();
    expect(value.value).toEqual(of('pipette'));
    vi.useRealTimers();
  });
});
