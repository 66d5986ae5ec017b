// What was recorded stays on this device until the server has it: kept before
// it is sent, taken out when it is acknowledged. One outbox for each person;
// every entry has a place of its own, so that two windows never overwrite each
// other's.
import { useQueryClient } from '@tanstack/vue-query';
import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { answer, api, Offline, Problem, type Entry, type Notebook } from '@/api/client';
import { dropOldest, keep as keepCopy } from '@/api/kept';
import { keys } from '@/api/queries';
import { judge } from '@/notebook/judge';

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
  const why = ref(''); // in the server's words
  const full = ref(false); // the device has no room: what waits is in this window only
  let sending: Promise<void> | null = null;
  let timer = 0;
  let apart = false; // what was not recorded at one moment is sent apart

  const prefix = () => `exactflask.outbox.${person.value}.`;
  const refusedPlace = () => `exactflask.refused.${person.value}`;

  function put(place: string, value: unknown) {
    const text = JSON.stringify(value);
    for (;;) {
      try {
        localStorage.setItem(place, text);
        full.value = false;
        return;
      } catch {
        if (!dropOldest()) {
          full.value = true;
          return;
        }
      }
    }
  }

  /** Everything that waits on this device, in the order it was recorded. */
  function load() {
    const found = Object.keys(localStorage)
      .filter((k) => k.startsWith(prefix()))
      .map((k) => JSON.parse(localStorage.getItem(k)!) as Waiting);
    const here = new Set(found.map((w) => w.entry.id));
    const unkept = full.value ? waiting.value.filter((w) => !here.has(w.entry.id)) : [];
    waiting.value = [...found, ...unkept].sort(
      (a, b) => a.entry.clock - b.entry.clock || a.entry.id.localeCompare(b.entry.id),
    );
    const text = localStorage.getItem(refusedPlace());
    refused.value = text ? (JSON.parse(text) as Refused[]) : [];
  }

  /** Takes over what this device still holds of a person who signed in, and sends it. */
  function open(id: string) {
    trouble.value = '';
    if (person.value !== id) {
      person.value = id;
      full.value = false;
      load();
    }
    void send();
  }

  /** Keeps entries and tries to send them. Resolves to a refusal of these very entries, if there was one. */
  async function add(notebook: string, entries: Entry[]): Promise<Refused | undefined> {
    for (const entry of entries) put(prefix() + entry.id, { notebook, entry });
    waiting.value = [...waiting.value, ...entries.map((entry) => ({ notebook, entry }))];
    const sent = send();
    // Without the network the core on this device says what the server would.
    if (trouble.value !== '' || !navigator.onLine) await check(notebook, entries);
    await Promise.race([sent, answered(entries)]);
    if (trouble.value !== '') await check(notebook, entries);
    const ids = new Set(entries.map((e) => e.id));
    const mine = refused.value.find((r) => r.entries.some((e) => ids.has(e.id)));
    if (mine) dismiss(mine); // the caller shows it where it was typed
    return mine;
  }

  /** A server that takes long does not hold the bench up: it goes on with what is kept. */
  async function answered(entries: Entry[]) {
    const ids = new Set(entries.map((e) => e.id));
    for (let i = 0; i < 10 && waiting.value.some((w) => ids.has(w.entry.id)); i++)
      await new Promise((r) => setTimeout(r, 150));
  }

  /** Refuses entries that the core says can never be taken. */
  async function check(notebook: string, entries: Entry[]) {
    const known = client.getQueryData<Notebook>(keys.notebook(notebook));
    const ids = new Set(entries.map((e) => e.id));
    if (!known || !waiting.value.some((w) => ids.has(w.entry.id))) return;
    const before = waitingFor(notebook).filter((e) => !ids.has(e.id));
    const found = await judge(known, [...before, ...entries]);
    if (found?.fault && found.at >= before.length) {
      done(entries);
      refuse({ notebook, entries, why: found.fault });
    }
  }

  function refuse(r: Refused) {
    refused.value = [...refused.value, r];
    put(refusedPlace(), refused.value);
  }

  function send(): Promise<void> {
    if (waiting.value.length === 0) return Promise.resolve();
    sending ??= sendAll();
    return sending;
  }

  /** Sends all that waits, and is over in the same moment in which nothing waits. */
  async function sendAll() {
    try {
      await sendBatches();
    } finally {
      sending = null;
    }
  }

  async function sendBatches() {
    clearTimeout(timer);
    while (waiting.value.length > 0) {
      const notebook = waiting.value[0]!.notebook;
      const entries: Entry[] = [];
      for (const w of waiting.value) {
        if (
          w.notebook !== notebook ||
          entries.length === batchSize ||
          (apart && w.entry.at !== entries[0]?.at && entries.length)
        )
          break;
        entries.push(w.entry);
      }
      try {
        const fresh = await answer(
          api.POST('/notebooks/{id}/entries', { params: { path: { id: notebook } }, body: { entries } }),
        );
        trouble.value = '';
        acknowledged(fresh, entries);
        done(entries);
      } catch (error) {
        if (!handle(error, notebook, entries)) return;
      }
    }
    apart = false;
  }

  /** The server has them: the notebook is as it says, with these entries. */
  function acknowledged(fresh: Notebook, sent: Entry[]) {
    const key = keys.notebook(fresh.id);
    const old = client.getQueryData<Notebook>(key);
    const byId = new Map((old?.entries ?? []).map((e) => [e.id, e]));
    sent.forEach((e) => byId.set(e.id, e));
    const notebook = { ...fresh, entries: [...byId.values()] };
    client.setQueryData<Notebook>(key, notebook);
    // Large, and not urgent: the server has it.
    requestIdleCallback(() => keepCopy('notebook.' + fresh.id, notebook), { timeout: 2_000 });
    // Somebody else wrote too, or the work view waits: fetch what is missing.
    // Otherwise the whole sheet, of which this holds what the bench needs, is
    // fetched when a view asks for it.
    const complete = notebook.entries.length === fresh.sheet.entries && !sent.some((e) => e.kind === 'answer');
    void client.invalidateQueries({ queryKey: key, refetchType: complete ? 'none' : 'active' });
  }

  /** Tells whether sending may go on with what is left. */
  function handle(error: unknown, notebook: string, entries: Entry[]): boolean {
    if (error instanceof Problem && error.status === 401) {
      trouble.value = 'signed-out';
      client.setQueryData(keys.me, null);
      return false;
    }
    if (error instanceof Problem && error.status < 500 && error.status !== 429) {
      if (entries.some((e) => e.at !== entries[0]!.at)) {
        apart = true; // one bad entry must not hold the good ones up
        return true;
      }
      // Not taken, and it never will be: out of the queue, shown with its reason.
      done(entries);
      refuse({ notebook, entries, why: error.message });
      return true;
    }
    trouble.value = error instanceof Offline ? 'offline' : 'failing';
    why.value = error instanceof Error ? error.message : '';
    timer = window.setTimeout(() => void send(), retryAfter);
    return false;
  }

  function done(entries: Entry[]) {
    const ids = new Set(entries.map((e) => e.id));
    ids.forEach((id) => localStorage.removeItem(prefix() + id));
    waiting.value = waiting.value.filter((w) => !ids.has(w.entry.id));
  }

  function dismiss(r: Refused) {
    refused.value = refused.value.filter((x) => x !== r);
    put(refusedPlace(), refused.value);
  }

  const pending = computed(() => waiting.value.length);
  const waitingFor = (notebook: string) => waiting.value.filter((w) => w.notebook === notebook).map((w) => w.entry);
  useEventListener(window, 'online', () => void send());
  useEventListener(window, 'storage', (e: StorageEvent) => {
    if (person.value && e.key?.startsWith(prefix())) load();
  });

  return { open, add, send, dismiss, waitingFor, pending, person, refused, trouble, why, full };
});
