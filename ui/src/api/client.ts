// The one door to the server. Every refusal becomes a Problem with the
// server's own words; no answer at all becomes an Offline.
import createClient, { type Middleware } from 'openapi-fetch';
import { ref } from 'vue';
import { joined } from '@/api/joined';
import { askedEarly, whoAsks } from '@/api/early';
import { say } from '@/words';
import type { components, paths } from '@/api/schema';

export type Schemas = components['schemas'];
export type Notebook = Schemas['Notebook'];
export type Entry = Schemas['Entry'];
export type Trial = Schemas['Trial'];
/** A person, with how the units of columns are written for them. */
export type Person = Schemas['Person'] & { units: Schemas['UnitTexts']; full?: boolean };

export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly code = '', // of the program's own problems; '' for what something in between says
    readonly location = '', // in what was sent
  ) {
    super(message);
  }
  /** Whether the program itself says so, and not something on the way to it. */
  get own() {
    return this.code !== '';
  }
}

/** What is wrong, and where in what was sent. */
export const placeOf = (e: unknown) => ({
  path: e instanceof Problem ? e.location.replace(/^body\./, '') : '',
  text: e instanceof Error ? e.message : String(e),
});

export class Offline extends Error {
  constructor() {
    super(say('problem.offline'));
  }
}

export const isOwn = (error: unknown, code: string): boolean => error instanceof Problem && error.code === code;

/**
 * As whom is asked (the server refuses where the session is another's by now), and who
 * hears of the program's own problems.
 */
export const ask = { as: '', heard: undefined as ((problem: Problem) => void) | undefined };

/** Asks for whoever is signed in, or as somebody in particular. */
export const asNow = (who = '') => ({ headers: { [whoAsks]: who } });

/** The version of the page that the server would give now, once it is another than this one. */
export const newerVersion = ref(false);
const build = document.querySelector<HTMLMetaElement>('meta[name=build]')?.content ?? '';

const asPerson: Middleware = {
  async onRequest({ request }) {
    if (ask.as && !request.headers.has(whoAsks)) request.headers.set(whoAsks, ask.as);
    if (request.method !== 'GET') return request;
    const early = askedEarly(new URL(request.url).pathname, request.headers.get(whoAsks) ?? '');
    return (await early?.catch(() => undefined)) ?? request;
  },
  onResponse({ response }) {
    const now = response.headers.get('Exactflask-Build');
    if (now && build && build !== now) newerVersion.value = true;
    return undefined;
  },
};

export const api = createClient<paths>({
  baseUrl: '/api',
  credentials: 'same-origin',
  fetch: joined((request) => fetch(request)),
});
api.use(asPerson);

type Answer<T> = { data?: T; error?: unknown; response: Response };

const ownType = 'urn:exactflask:';

/** What is said of a fault stands by itself here. */
const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1) + (/[.?!]$/.test(text) ? '' : '.');

function problemOf(response: Response, error: unknown): Problem {
  const told = (typeof error === 'object' ? error : undefined) as Schemas['ErrorModel'] | undefined;
  const own = told?.type?.startsWith(ownType) === true;
  const words = own ? (told.detail ?? told.title) : undefined;
  return new Problem(
    response.status,
    words ? sentence(words) : say('problem.other', { status: response.status }),
    own ? told.type!.slice(ownType.length) : '',
    own ? (told.errors?.[0]?.location ?? '') : '',
  );
}

export async function answer<T>(call: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>;
  try {
    got = await call;
  } catch {
    throw new Offline();
  }
  if (!got.response.ok) {
    const problem = problemOf(got.response, got.error);
    if (problem.own) ask.heard?.(problem);
    throw problem;
  }
  // What something in between says in the program's place is no answer of it.
  if (got.response.status !== 204 && typeof got.data !== 'object') throw new Offline();
  return got.data as T;
}
