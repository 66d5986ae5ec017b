// The one door to the server. Every refusal becomes a Problem with the
// server's own words; no answer at all becomes an Offline.
import createClient from 'openapi-fetch';
import type { components, paths } from '@/api/schema';

export type Schemas = components['schemas'];
export type Notebook = Schemas['Notebook'];
export type Entry = Schemas['Entry'];
export type Trial = Schemas['Trial'];
export type Person = Schemas['Person'];

export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

export class Offline extends Error {
  constructor() {
    super('The server cannot be reached. What you record is kept on this device and sent when it can be.');
  }
}

export const api = createClient<paths>({ baseUrl: '/api', credentials: 'same-origin' });

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** What a problem document says. */
function words(error: unknown): string | undefined {
  const told = error as Schemas['ErrorModel'] | undefined;
  return told?.detail ?? told?.title;
}

export async function answer<T>(call: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>;
  try {
    got = await call;
  } catch {
    throw new Offline();
  }
  if (!got.response.ok) {
    throw new Problem(got.response.status, words(got.error) ?? `The server answered ${got.response.status}.`);
  }
  return got.data as T;
}
