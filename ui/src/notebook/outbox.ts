// The queue of whoever is at this page, with what is known here of the notebooks.
import { useQueryClient } from '@tanstack/vue-query';
import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, watch } from 'vue';
import { answer, api, Problem, type Entry, type Notebook, type Schemas } from '@/api/client';
import { dropOldest, keep as keepCopy, kept } from '@/api/kept';
import { keys } from '@/api/keys';
import { device, places, read, readValue, remove, whenChangedElsewhere, write } from '@/device/storage';
import { places as early } from '@/api/early';
import { begunHere, idThere, isBegunHere } from '@/notebook/begun';
import { changed, type Fields } from '@/notebook/change';
import { coreReady, judge, refusal } from '@/notebook/judge';
import { makeQueue, type Waiting } from '@/notebook/queue';
import { useSession } from '@/session/session';
import { whenIdle } from '@/shared/idle';
import { laterHere } from '@/shared/sender';

export type { Refused } from '@/notebook/queue';

const patience = 1_500; // ms that the bench waits for the server before it goes on
const copyOf = (notebook: string) => 'notebook.' + notebook;
const together = 800_000; // bytes of entries that are sent at once, under what the server takes

export const useOutbox = defineStore('outbox', () => {
  const client = useQueryClient();
  const session = useSession();
  // How many entries the sheet held that the server sent last of each notebook in
  // answer to entries: of that one it sends only what has changed since.
  const held = new Map<string, number>();
  // How many a notebook has at least: what is older than what was acknowledged here is not shown.
  const atLeast = new Map<string, number>();

  const queue = makeQueue({
    keep: (place, value) => void write(place, value, dropOldest),
    drop: remove,
    kept: (prefix) => places(prefix).flatMap((place) => readValue<Waiting>(place) ?? []),
    send,
    stopped: () => undefined, // the session heard of it with the answer
    later: laterHere,
    random: Math.random,
  });

  watch(
    () => session.id,
    (id, before) => {
      held.clear();
      atLeast.clear();
      // Who signs out takes the copies along, and what was to stay until a copy holds it.
      if (before && read(early.leaving) !== null) queue.unsettled().forEach((n) => queue.settle(n));
      queue.open(id);
      // Where no copy is kept there is nothing that must be complete.
      for (const n of queue.unsettled()) if (!kept(copyOf(n))) queue.settle(n);
    },
    { immediate: true, flush: 'sync' },
  );

  async function send(notebook: string, entries: Entry[]) {
    if (JSON.stringify(entries).length > together && entries.length > 1) throw new Problem(413, '');
    const id = isBegunHere(notebook) ? await beginThere(notebook) : idThere(notebook);
    const fresh = await answer(
      api.POST('/notebooks/{id}/entries', { params: { path: { id } }, body: { entries, base: baseOf(id) } }),
    );
    acknowledged(fresh, entries);
  }

  /** Begins on the server what was begun here, and goes on under the id that it has there. */
  async function beginThere(here: string) {
    const begun = begunHere(here)!;
    const { id } = await answer(
      api.POST('/classes/{class}/practicals/{practical}/notebook', {
        params: { path: { class: begun.class, practical: begun.practical } },
        body: { id: here },
      }),
    );
    begun.settle(id);
    if (id !== here) queue.rename(here, id);
    void client.invalidateQueries({ queryKey: keys.notebook(here) });
    return id;
  }

  /** How many entries the sheet here has, where it is the one that the server knows of. */
  function baseOf(notebook: string) {
    const here = client.getQueryData<Notebook>(keys.notebook(notebook))?.sheet.entries;
    return here === held.get(notebook) ? here : undefined;
  }

  /** The server has them: the notebook is as it was, with what it says has changed, and these entries. */
  function acknowledged(fresh: Schemas['Appended'], sent: Entry[]) {
    const key = keys.notebook(fresh.id);
    const old = client.getQueryData<Notebook>(key);
    const { base, sheet: change, ...rest } = fresh;
    const entries = (change as { entries?: number }).entries ?? old?.sheet.entries ?? 0;
    atLeast.set(fresh.id, Math.max(entries, atLeast.get(fresh.id) ?? 0));
    if (!old || (base && base !== held.get(fresh.id))) {
      held.delete(fresh.id);
      void client.invalidateQueries({ queryKey: key });
      return;
    }
    const byId = new Map((old.entries ?? []).map((e) => [e.id, e]));
    sent.forEach((e) => byId.set(e.id, e));
    const sheet = changed(base ? (old.sheet as unknown as Fields) : {}, change as Fields);
    const notebook: Notebook = {
      ...old,
      offer: undefined,
      bottle: undefined,
      ...rest,
      sheet: sheet as unknown as Notebook['sheet'],
      entries: [...byId.values()],
    };
    held.set(fresh.id, notebook.sheet.entries);
    client.setQueryData<Notebook>(key, notebook);
    // Large, and not urgent: the server has it.
    const who = session.id;
    idly(() => {
      if (who !== session.id) return;
      keepCopy(copyOf(fresh.id), notebook);
      queue.settle(fresh.id, new Set(byId.keys()));
    });
    // Somebody else wrote too, or the work view waits: fetch what is missing.
    // Otherwise the whole sheet, of which this holds what the bench needs, is
    // fetched when a view asks for it.
    const complete = notebook.entries!.length === notebook.sheet.entries && !sent.some((e) => e.kind === 'answer');
    void client.invalidateQueries({ queryKey: key, refetchType: complete ? 'none' : 'active' });
  }

  let keeping: (() => unknown) | undefined;
  /** Does the last of these when nothing else is to be done. */
  function idly(work: () => unknown) {
    const first = !keeping;
    keeping = work;
    if (!first) return;
    whenIdle(() => {
      keeping?.();
      keeping = undefined;
    });
  }

  /** Keeps entries and sends them. Resolves to why they are refused, if they are. */
  async function add(notebook: string, entries: Entry[]): Promise<string | undefined> {
    const known = client.getQueryData<Notebook>(keys.notebook(notebook));
    const ids = new Set(entries.map((e) => e.id));
    // The core here says what the server would: before anything is sent where nothing
    // arrives anyway, else meanwhile.
    const before = known ? beyond(known) : [];
    if (known && coreReady.value && queue.trouble.value !== '') {
      const found = await judge(known, [...before, ...entries], true);
      if (found?.fault && found.at >= before.length) return found.fault;
    }
    const verdict = known && queue.trouble.value === '' ? refusal(known, before, entries) : undefined;
    const sent = queue.add(notebook, entries);
    const stands = new Promise<void>((done) => void verdict?.then((why) => why === '' && done()));
    const decided = () => !queue.waiting.value.some((w) => ids.has(w.entry.id));
    await Promise.race([
      sent,
      stands, // that it is sent is seen elsewhere
      new Promise<void>((done) => {
        const stop = watch(
          [queue.all, queue.trouble],
          () => (decided() || queue.trouble.value !== '') && (stop(), done()),
        );
        setTimeout(() => (stop(), done()), patience);
      }),
    ]);
    const mine = queue.refused.value.find((r) => r.entries.some((e) => ids.has(e.id)));
    if (mine) queue.giveUp(mine); // the caller shows it where it was typed
    return mine?.why;
  }

  /** What was typed on this device for a notebook and is not among its entries here. */
  function beyond(notebook: Notebook): Entry[] {
    const known = new Set((notebook.entries ?? []).map((e) => e.id));
    return queue.typedFor(notebook.id).filter((e) => !known.has(e.id));
  }

  /** The server sent it whole, and a copy of it is kept. */
  function settled(notebook: Notebook) {
    if (!isOld(notebook)) queue.settle(notebook.id);
  }

  /** Whether what was fetched is older than what the server has acknowledged here. */
  const isOld = (n: Notebook) => n.sheet.entries < (atLeast.get(n.id) ?? 0);

  // What is in this window only would be lost with it: then, and only then, leaving asks.
  useEventListener(window, 'beforeunload', (e: BeforeUnloadEvent) => {
    if ((device.full || device.blocked) && queue.waiting.value.length) e.preventDefault();
  });
  useEventListener(window, 'online', () => void queue.send());
  whenChangedElsewhere('exactflask.outbox.', () => {
    if (session.id) queue.load();
  });
  // A password was changed, a session begun anew: nothing holds it up any more.
  watch(
    () => session.person,
    (now) => now && !now.mustChange && queue.trouble.value === 'stopped' && void queue.send(),
  );

  return {
    add,
    isOld,
    beyond,
    settled,
    send: queue.send,
    resend: queue.resend,
    giveUp: queue.giveUp,
    waitingFor: queue.waitingFor,
    /** Parts an entry that the core here says can never be taken, unless the server is asked just now. */
    refuse: (notebook: string, entry: Entry | undefined, why: string) => {
      if (entry && queue.trouble.value !== '') queue.refuse(notebook, queue.inOneGo(entry), why);
    },
    pending: computed(() => queue.waiting.value.length),
    refused: queue.refused,
    trouble: queue.trouble,
    why: queue.why,
    heldWhy: queue.heldWhy,
    heldBack: queue.heldBack,
    all: queue.all,
  };
});
