// What was recorded stays on this device until the server has it: kept before
// it is sent, taken out when it is acknowledged. One outbox for each person.
import { useQueryClient } from '@tanstack/vue-query';
import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { answer, api, Offline, Problem, type Entry, type Notebook } from '@/api/client';
import { keys } from '@/api/queries';

type Waiting = { notebook: string; entry: Entry };
export type Refused = { notebook: string; entries: Entry[]; why: string };

const batchSize = 200;
const retryAfter = 3_000; // ms

export const useOutbox = defineStore('outbox', () => {
  const client = useQueryClient();
  const person = ref('');
  const waiting = ref<Waiting[]>([]);
  const refused = ref<Refused[]>([]);
  const trouble = ref<'' | 'offline' | 'signed-out' | 'failing'>('');
  let sending: Promise<void> | null = null;
  let timer = 0;

  const place = () => `exactflask.outbox.${person.value}`;
  const keep = () => localStorage.setItem(place(), JSON.stringify({ waiting: waiting.value, refused: refused.value }));

  /** Takes over what this device still holds of a person who signed in, and sends it. */
  function open(id: string) {
    trouble.value = '';
    if (person.value !== id) {
      person.value = id;
      const text = localStorage.getItem(place());
      const kept = text ? (JSON.parse(text) as { waiting: Waiting[]; refused: Refused[] }) : null;
      waiting.value = kept?.waiting ?? [];
      refused.value = kept?.refused ?? [];
    }
    void send();
  }

  /** Keeps entries and tries to send them. Resolves to a refusal of these very entries, if there was one. */
  async function add(notebook: string, entries: Entry[]): Promise<Refused | undefined> {
    waiting.value.push(...entries.map((entry) => ({ notebook, entry })));
    keep();
    await send();
    const ids = new Set(entries.map((e) => e.id));
    const mine = refused.value.find((r) => r.entries.some((e) => ids.has(e.id)));
    if (mine) dismiss(mine); // the caller shows it where it was typed
    return mine;
  }

  function send(): Promise<void> {
    sending ??= sendAll().finally(() => (sending = null));
    return sending;
  }

  async function sendAll() {
    clearTimeout(timer);
    while (waiting.value.length > 0) {
      const notebook = waiting.value[0]!.notebook;
      const entries: Entry[] = [];
      for (const w of waiting.value) {
        if (w.notebook !== notebook || entries.length === batchSize) break;
        entries.push(w.entry);
      }
      try {
        const fresh = await answer(
          api.POST('/notebooks/{id}/entries', { params: { path: { id: notebook } }, body: { entries } }),
        );
        done(entries);
        trouble.value = '';
        client.setQueryData<Notebook>(keys.notebook(notebook), fresh);
      } catch (error) {
        if (!handle(error, notebook, entries)) return;
      }
    }
  }

  /** Tells whether sending may go on with what is left. */
  function handle(error: unknown, notebook: string, entries: Entry[]): boolean {
    if (error instanceof Problem && error.status === 401) {
      trouble.value = 'signed-out';
      client.setQueryData(keys.me, null);
      return false;
    }
    if (error instanceof Problem && error.status < 500 && error.status !== 429) {
      // Not taken, and it never will be: out of the queue, shown with its reason.
      done(entries);
      refused.value.push({ notebook, entries, why: error.message });
      keep();
      return true;
    }
    trouble.value = error instanceof Offline ? 'offline' : 'failing';
    timer = window.setTimeout(() => void send(), retryAfter);
    return false;
  }

  function done(entries: Entry[]) {
    const ids = new Set(entries.map((e) => e.id));
    waiting.value = waiting.value.filter((w) => !ids.has(w.entry.id));
    keep();
  }

  function dismiss(r: Refused) {
    refused.value = refused.value.filter((x) => x !== r);
    keep();
  }

  const pending = computed(() => waiting.value.length);
  const waitingFor = (notebook: string) => waiting.value.filter((w) => w.notebook === notebook).map((w) => w.entry);
  useEventListener(window, 'online', () => void send());

  return { open, add, send, dismiss, waitingFor, pending, refused, trouble };
});
