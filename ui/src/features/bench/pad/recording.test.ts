// @vitest-environment happy-dom
/* eslint-disable vue/one-component-per-file -- a pad and what holds it */
import { createApp, defineComponent, effectScope, h, nextTick, ref, useModel } from 'vue';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Notebook } from '@/api/client';
import { useRecording } from '@/features/bench/pad/useRecording';
import { useFirstKey } from '@/features/bench/pad/useShown';
import type { Shown } from '@/features/bench/pad/target';
import type { Bench } from '@/notebook/useBench';

vi.mock('@/notebook/outbox', () => ({ useOutbox: () => ({ all: [], beyond: () => [] }) }));

const begins = {
  id: 'notebook',
  entries: [],
  sheet: { next: { entry: { opens: 'rough', mark: 'start', may: [{ type: 'rough', mark: 'start' }] } }, trials: [] },
} as unknown as Notebook;
const start = { mark: 'start', opens: 'rough' } as const;

// What was not taken never mixes with what is being typed: it waits for the field.
describe('a reading that comes back', () => {
  beforeEach(() => localStorage.clear());
  const settle = async () => {
    for (let i = 0; i < 8; i++) await nextTick();
  };
  function pad(answers: Record<string, string | undefined>) {
    const written: string[] = [];
    const open = vi.fn(async (...[, , , , text]: Parameters<Bench['open']>) => {
      if (answers[text] === undefined) written.push(text);
      return answers[text];
    });
    const bench = { open, doubt: async () => '' } as unknown as Bench;
    const scope = effectScope();
    const used = scope.run(() => useRecording(ref(begins), bench, ref(true), () => undefined))!;
    const enter = (text: string) => {
      used.text.value = text;
      used.act('record', text, 'rough', '', start, true);
    };
    return { ...used, written, enter, leave: () => scope.stop() };
  }

  it('stands in the field at once where nothing is typed', async () => {
    const p = pad({ '99.00': 'past the last mark' });
    p.enter('99.00');
    await settle();
    expect([p.text.value, p.problem.value, p.written]).toEqual(['99.00', 'past the last mark', []]);
  });

  it('waits while another is half typed, and goes before it', async () => {
    const p = pad({ '99.00': 'past the last mark' });
    p.enter('99.00');
    p.text.value = '26.'; // typed while it was on its way
    await settle();
    expect(p.text.value).toBe('26.');
    expect(p.problem.value).toContain('99.00');
    p.enter('26.45');
    await settle();
    expect([p.text.value, p.problem.value, p.written]).toEqual(['99.00', 'past the last mark', []]);
    p.enter('9.00'); // mended
    await settle();
    expect([p.text.value, p.written]).toEqual(['', ['9.00', '26.45']]);
  });

  it('belongs to what is shown at its own first key, not at that of what stood there before', async () => {
    let shows: Shown = start;
    let first!: ReturnType<typeof useFirstKey>;
    let used!: ReturnType<typeof useRecording>;
    const field = defineComponent({
      props: { modelValue: { type: String, required: true } },
      emits: ['update:modelValue'],
      setup(props) {
        const text = useModel(props, 'modelValue');
        first = useFirstKey(
          'notebook',
          () => text.value,
          () => [shows, true],
        );
        return () => h('p', text.value);
      },
    });
    const open = async (...[, , , , text]: Parameters<Bench['open']>) => (text === '99.00' ? 'no' : undefined);
    const bench = { open, doubt: async () => '' } as unknown as Bench;
    createApp({
      setup() {
        used = useRecording(ref(begins), bench, ref(true), () => undefined);
        return () =>
          h(field, { modelValue: used.text.value, 'onUpdate:modelValue': (v: string) => (used.text.value = v) });
      },
    }).mount(document.createElement('div'));
    const type = async (text: string) => {
      first.keyed();
      used.text.value = text;
      await nextTick();
    };
    await type('99.00');
    used.act('record', '99.00', 'rough', '', ...([shows, true] as const));
    await nextTick();
    await type('26.45');
    await settle();
    shows = { trial: 'mine', mark: 'end' };
    used.act('record', '26.45', 'rough', '', ...first.firstKey());
    await settle();
    expect(used.text.value).toBe('99.00');
    expect(first.firstKey()).toEqual([shows, true]);
  });

  it('comes where the other is taken out, and over a reload', async () => {
    const p = pad({ '99.00': 'past the last mark' });
    p.enter('99.00');
    p.text.value = '26.';
    await settle();
    p.leave();
    const again = pad({});
    expect(again.text.value).toBe('26.');
    again.text.value = '';
    await settle();
    expect(again.text.value).toBe('99.00');
  });
});

// Whatever is recorded at the pad goes to the trial that was shown at its first key, also where a
// partner's stands first when its turn comes.
describe('what is recorded at the pad', () => {
  const mine = { trial: 'mine', mark: 'end' as const };
  const rows = [
    ['record', 'end'],
    ['note', 'provisional'],
    ['refill', 'before-refill'],
    ['again', 'start'],
    ['end', 'end'],
  ] as const;
  const changed = {
    ...begins,
    sheet: { ...begins.sheet, next: { entry: { trial: 'theirs', mark: 'end' }, others: [mine] } },
  };
  const setUp = () => {
    localStorage.clear();
    const read = vi.fn(async () => undefined);
    const point = vi.fn(async () => undefined);
    const bench = { read, point, doubt: async () => '' } as unknown as Bench;
    const pad = effectScope().run(() =>
      useRecording(ref(changed as unknown as Notebook), bench, ref(true), () => undefined),
    )!;
    return { pad, read, point };
  };
  it.each(rows)('%s is a reading of it: %s', async (action, mark) => {
    const { pad, read } = setUp();
    pad.act(action, '22.40', 'rough', '', mine, true);
    await vi.waitFor(() => expect(read).toHaveBeenCalledWith('mine', mark, '22.40', expect.any(String)));
  });
  it('a point is one of it', async () => {
    const { pad, point } = setUp();
    pad.actPoint('point', '4.00', '3.96', { colour: 'pink' }, mine, true);
    await vi.waitFor(() =>
      expect(point).toHaveBeenCalledWith('mine', '4.00', '3.96', { colour: 'pink' }, expect.any(String)),
    );
  });
});
