// What is written once is sent once: the same again (a second Enter on a slow line, a tap that bounced)
// waits for the answer of the first and is nothing of its own, while that is under way and a moment
// after. Each has an id by which the server takes it once, also where its answer was lost on the way and
// it is sent again.
import { v7 as uuid } from 'uuid';

const bounce = 700; // ms
const most = 100_000; // characters of a body that is compared
const unsureFor = 9 * 60_000; // ms; the server remembers ten minutes

type Sent = { what: string; id: string; at: number; answer?: Promise<Response> };

// Whoever signs in again was signed out meanwhile.
const isSession = (request: Request) => request.url.endsWith('/session');

// Entries have ids of their own.
const hasIds = (request: Request) => request.url.endsWith('/entries');

export function joined(send: (request: Request) => Promise<Response>, now = () => Date.now()) {
  const last = new Map<string, Sent>(); // by where it was sent
  return async (request: Request): Promise<Response> => {
    if (request.method === 'GET' || request.headers.get('Content-Type')?.startsWith('application/octet'))
      return send(request);
    const body = await request.clone().text();
    if (body.length > most) return send(request);
    const where = `${request.method} ${request.url}`;
    const what = [...request.headers, body].join('\n');
    const before = last.get(where);
    const same = before?.what === what && (before.answer || now() - before.at < unsureFor) ? before : undefined;
    if (same?.answer) return (await same.answer).clone();
    // What was taken back is a thing of its own when it is done again: a write to the same place or below it by
    // another method ends the bounce.
    for (const [other, was] of last) {
      const [method, url] = other.split(' ') as [string, string];
      if (was.answer && method !== request.method && (url.startsWith(request.url) || request.url.startsWith(url)))
        last.delete(other);
    }
    const mine: Sent = { what, id: same?.id ?? uuid(), at: 0 };
    if (request.method === 'POST' && !hasIds(request)) request.headers.set('Idempotency-Key', mine.id);
    mine.answer = send(request);
    last.set(where, mine);
    try {
      const answer = await mine.answer;
      if (!answer.ok)
        unsure(mine); // whoever said so, it may have been taken
      else if (isSession(request)) last.delete(where);
      else setTimeout(() => last.get(where) === mine && last.delete(where), bounce);
      return answer.clone();
    } catch (error) {
      unsure(mine);
      throw error;
    }
  };

  function unsure(mine: Sent) {
    mine.at = now();
    delete mine.answer;
  }
}
