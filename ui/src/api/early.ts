// What the first view needs is asked for while the other scripts are still on their way.
// This is a script of its own, which comes first and imports nothing (vite.config.ts).

/** The header that says as whom is asked: the server refuses where the session is another's. */
export const whoAsks = 'Exactflask-Person';
/** Where this device keeps who is signed in, and whose session is still to be ended. */
export const places = { session: 'exactflask.session', leaving: 'exactflask.leaving' };

const asked = new Map<string, { as: string; answer: Promise<Response> }>();

/** What was asked for early, if it was, as this person; it is given out once. */
export function askedEarly(path: string, as: string): Promise<Response> | undefined {
  const found = asked.get(path);
  if (found?.as !== as) return undefined;
  asked.delete(path);
  return found.answer;
}

function ask(path: string, as = '') {
  const answer = fetch(path, { credentials: 'same-origin', headers: as ? { [whoAsks]: as } : {} });
  answer.catch(() => undefined); // it is asked for again
  asked.set(path, { as, answer });
  return answer;
}

/** Who was here last, or else whom the server knows. */
async function whoIsHere(me: Promise<Response>): Promise<string> {
  const kept = localStorage.getItem(places.session);
  const person = kept ? JSON.parse(kept) : (await (await me).clone().json()).person;
  return person.id;
}

async function begin() {
  if (localStorage.getItem(places.leaving)) return; // whoever was here has left
  // What is older than this is asked for anew.
  setTimeout(() => asked.clear(), 10_000);
  const me = ask('/api/me');
  const notebook = /^\/notebooks\/([\w-]+)/.exec(location.pathname)?.[1];
  if (notebook) ask(`/api/notebooks/${notebook}`, await whoIsHere(me));
}

// The head stands there for who has a session (web/web.go).
if (document.querySelector('#app > header')) begin().catch(() => undefined);
