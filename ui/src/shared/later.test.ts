// @vitest-environment happy-dom
import { createApp, h, nextTick, ref, type FunctionalComponent } from 'vue';
import { describe, expect, it, vi } from 'vitest';
import { later, whenMissing } from './later';

const part: FunctionalComponent<{ title: string }> = ({ title }) => h('p', title);
part.props = ['title'];

/** A view with one part in it that is shown when it is asked for. */
function view(load: () => Promise<{ default: typeof part }>) {
  const Part = later(load);
  const asked = ref(false);
  let missing = 0;
  const root = document.createElement('div');
  createApp({
    setup() {
      whenMissing(() => {
        missing++;
        asked.value = false;
      });
      return () => (asked.value ? h(Part, { title: 'note', class: 'wide' }) : null);
    },
  }).mount(root);
  return { Part, asked, root, missing: () => missing };
}

describe('a part that comes later', () => {
  it('is shown when it is there, with what was handed to it', async () => {
    const v = view(() => Promise.resolve({ default: part }));
    v.asked.value = true;
    await vi.waitFor(() => expect(v.root.innerHTML).toBe('<p class="wide">note</p>'));
  });
  it('that was fetched before is shown in the same moment', async () => {
    const v = view(() => Promise.resolve({ default: part }));
    await v.Part.fetch();
    v.asked.value = true;
    await nextTick();
    expect(v.root.textContent).toBe('note');
  });
  it.each([
    ['fails', () => Promise.reject(new Error('no network'))],
    ['is nothing', () => Promise.resolve(undefined as never)],
  ])('whose script %s is missing to the view above, and asked for again', async (_, answer) => {
    let tries = 0;
    const v = view(() => (++tries < 3 ? answer() : Promise.resolve({ default: part })));
    for (const missing of [1, 2]) {
      v.asked.value = true;
      await vi.waitFor(() => expect([v.missing(), v.root.textContent]).toEqual([missing, '']));
    }
    v.asked.value = true;
    await vi.waitFor(() => expect([v.missing(), v.root.textContent]).toEqual([2, 'note']));
  });
});
