// Who is at this page: one state, in every window of this device. Whatever belongs to
// a person (what waits, copies, drafts) is kept under their id, and opened and closed
// here and nowhere else.
import { QueryClient, useQueryClient } from '@tanstack/vue-query';
import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { answer, api, asNow, ask, isOwn, Offline, Problem, type Person, type Schemas } from '@/api/client';
import { forgetAll } from '@/api/kept';
import { owner } from '@/device/owner';
import { read, readValue, remove, whenChangedElsewhere, write } from '@/device/storage';
import { places } from '@/api/early';
import { applyTheme } from '@/device/theme';
import { speak } from '@/words';

const known = (told: Schemas['MeBody']): Person => ({ ...told.person, units: told.units, full: told.full });

export const useSession = defineStore('session', () => {
  const client = useQueryClient();
  /** Who is signed in; null: nobody; undefined: not known yet. */
  const person = shallowRef<Person | null>();
  /** Who was here until the session ended without being asked to. */
  const endedFor = shallowRef<Person>();
  /** The id of who was here before. */
  const leftBy = ref('');
  const trouble = ref<Error>();
  const id = computed(() => person.value?.id ?? '');

  /** The one place where the person changes. */
  function become(next: Person | null) {
    const before = person.value;
    if (before?.id !== next?.id || before === undefined) {
      // Nothing of one person is seen by the next; what is on its way is dropped.
      clearOf(client);
      owner.id = ask.as = next?.id ?? '';
    }
    if (before) leftBy.value = before.id;
    person.value = next;
    if (next) endedFor.value = undefined;
    applyTheme(next?.preferences.theme ?? 'system');
    speak(next?.preferences.words || 'titre');
  }

  const remember = (next: Person | null) => (next ? write(places.session, next) : remove(places.session));

  /** What this device remembers; the server is asked whether it still holds. */
  async function begin() {
    const kept = readValue<Person>(places.session);
    if (kept && read(places.leaving) === null) become(kept);
    await check();
  }

  let checking: Promise<void> | undefined;
  const check = () => (checking ??= asking().finally(() => (checking = undefined)));

  async function asking() {
    trouble.value = undefined;
    try {
      await leaveNow();
      if (read(places.leaving) !== null) return become(null);
      const now = known(await answer(api.GET('/me', asNow())));
      remember(now);
      become(now);
    } catch (error) {
      if (isOwn(error, 'web.not-signed-in')) return; // heard
      if (person.value === undefined && read(places.leaving) !== null) become(null);
      else if (person.value === undefined) trouble.value = error as Error;
    }
  }

  /** The session is over on the server. */
  function end() {
    if (person.value) endedFor.value = person.value;
    remember(null);
    become(null);
  }

  const signIn = (username: string, password: string) =>
    enter(() => answer(api.POST('/session', { ...asNow(), body: { username, password } })));

  /** Becomes who the server says that one is now: after signing in, joining, setting up. */
  async function enter(ask: () => Promise<Schemas['MeBody']>) {
    await leaveNow().catch(() => undefined);
    const next = known(await ask());
    remove(places.leaving);
    remember(next);
    become(next);
  }

  /** Signs out, also without the network: the server hears of it later, and nobody is let in meanwhile. */
  async function signOut() {
    const who = id.value;
    write(places.leaving, who);
    forgetAll();
    remember(null);
    become(null);
    endedFor.value = undefined;
    await leaveNow().catch(() => undefined);
  }

  /** Ends the session that was left, where one was. */
  async function leaveNow() {
    const who = read(places.leaving);
    if (who === null) return;
    try {
      await answer(api.DELETE('/session', asNow(JSON.parse(who) as string)));
    } catch (error) {
      if (error instanceof Offline || !(error instanceof Problem) || !error.own || error.status >= 500) throw error;
      // The session is another's, or over already.
    }
    remove(places.leaving);
  }

  /** Takes over what the server says of the person. */
  function changed(now: Person) {
    remember(now);
    become(now);
  }

  async function prefer(body: Schemas['Preferences']) {
    changed(known(await answer(api.PUT('/me/preferences', { body }))));
    await client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'about' });
  }

  /** Changes one's name; true: it was asked for, and those who lead the class grant it. */
  async function rename(name: string): Promise<boolean> {
    const told = await answer(api.PUT('/me/name', { body: { name } }));
    if (told.wished) return true;
    changed(known(told));
    await client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'about' });
    return false;
  }

  // What an answer of the server says of the session, whatever was asked: that it is over,
  // another's, or of a person who has to change the password first.
  ask.heard = ({ code }) => {
    if (code === 'web.not-signed-in') end();
    else if (code === 'web.other-person' && !checking && read(places.leaving) === null) void check();
    else if (code === 'web.change-password-first' && !person.value?.mustChange) void check();
  };

  // Another window signed in or out.
  whenChangedElsewhere(places.session, () => {
    const now = readValue<Person>(places.session) ?? null;
    if (now?.id !== person.value?.id || JSON.stringify(now) !== JSON.stringify(person.value)) become(now);
  });
  useEventListener(window, 'online', () => void leaveNow().catch(() => undefined));
  useEventListener(window, 'pageshow', (e: PageTransitionEvent) => {
    if (e.persisted) void check(); // out of the browser's memory: it may be another's by now
  });

  return { person, id, endedFor, leftBy, trouble, begin, check, signIn, enter, signOut, changed, prefer, rename };
});

function clearOf(client: QueryClient) {
  client.removeQueries({ predicate: (q) => q.queryKey[0] !== 'about' });
  client.getMutationCache().clear();
}
