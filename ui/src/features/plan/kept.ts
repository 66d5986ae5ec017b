// What is being written, kept as it is typed until it is set to the class: on this
// device, and on the server for another one.
import { onScopeDispose } from 'vue';
import { answer, api } from '@/api/client';
import { mine } from '@/device/owner';
import { readValue, remove, write } from '@/device/storage';
import type { Practical } from '@/features/plan/draft';

const place = (classId: string, practical?: string) => `${mine('draft')}plan.${classId}.${practical ?? ''}`;

/** Begins a new practical of a class with another one. */
export const beginWith = (classId: string, p: Practical) => write(place(classId), p);

const pause = 800; // ms without a key before the server hears of it

/** The draft of a class's practical, or of its new one; which one that is may change. */
export function useSharedDraft(classId: string, practical: () => string | undefined) {
  const path = '/classes/{class}/drafts/{name}' as const;
  const of = (name: string) => ({ params: { path: { class: classId, name } } });
  const quietly = (asked: Promise<unknown>) => asked.catch(() => undefined); // it is on the device in any case
  let waiting: { name: string; draft: Practical; timer: ReturnType<typeof setTimeout> } | undefined;
  const held = new Set<string>(); // drafts that are kept somewhere

  function send() {
    if (!waiting) return;
    clearTimeout(waiting.timer);
    const { name, draft } = waiting;
    waiting = undefined;
    void quietly(answer(api.PUT(path, { ...of(name), body: { practical: draft } })));
  }
  onScopeDispose(send);

  /** Keeps it; null: it was set, or given up. */
  function keep(draft: Practical | null) {
    const name = practical() ?? 'new';
    if (waiting && waiting.name !== name) send();
    if (draft) {
      held.add(name);
      write(place(classId, practical()), draft);
      if (waiting) clearTimeout(waiting.timer);
      waiting = { name, draft, timer: setTimeout(send, pause) };
      return;
    }
    if (waiting) clearTimeout(waiting.timer);
    waiting = undefined;
    remove(place(classId, practical()));
    if (held.delete(name)) void quietly(answer(api.DELETE(path, of(name))));
  }

  /** The draft of this device, or, where there is none, that of another one. */
  async function find(): Promise<Practical | null> {
    const name = practical() ?? 'new';
    const here = readValue<Practical>(place(classId, practical()));
    const there = here ? undefined : await answer(api.GET(path, of(name))).catch(() => undefined);
    const found = here ?? (there?.practical as Practical | undefined) ?? null;
    if (found) held.add(name);
    return found;
  }
  return { keep, find };
}
