// One way of sending what waits on this device, for every queue of it: one job after the
// other, each kept until the server has answered, with growing pauses while nothing arrives.

/** The pause before the nth attempt in a row, in ms: growing, and no two devices in step. */
export const pauseAfter = (failures: number, random: number) =>
  Math.min(60_000, 1_000 * 2 ** Math.min(failures - 1, 6)) * (0.75 + random / 2);

/** A timer that can be called off. */
export const laterHere = (then: () => void, ms: number) => {
  const timer = window.setTimeout(then, ms);
  return () => clearTimeout(timer);
};

/** After a job that failed: the next one, all of it after a pause, or nothing until it is asked for. */
export type After = 'next' | 'later' | 'stop';

export type Way<Job, Answer> = {
  /** Whoever is here. An answer that comes when somebody else is here is not heard. */
  who: () => string;
  /** Called before the first job of an attempt. */
  begin?: () => void;
  /** What goes next; undefined: nothing. */
  next: () => Job | undefined;
  give: (job: Job) => Promise<Answer>;
  took: (job: Job, answer: Answer) => void;
  failed: (job: Job, error: unknown) => After;
  /** Whether something was passed over that is to be tried again. */
  passed?: () => boolean;
  later: (then: () => void, ms: number) => () => void;
  random: () => number;
};

export function makeSender<Job, Answer>(way: Way<Job, Answer>) {
  let sending: Promise<void> | undefined;
  let failures = 0;
  let callOff: () => void = () => undefined;

  /** Sends what waits; now, whatever pause was made. */
  function send(): Promise<void> {
    sending ??= attempt();
    return sending;
  }

  /** Is over in the same moment in which nothing is to be sent any more. */
  async function attempt() {
    const who = way.who();
    try {
      await pump(who);
    } finally {
      sending = undefined;
      if (way.who() !== who) void send(); // somebody else is here by now
    }
  }

  async function pump(who: string) {
    callOff();
    way.begin?.();
    for (let job = way.next(); job !== undefined; job = way.next()) {
      let answer: Answer;
      try {
        answer = await way.give(job);
      } catch (error) {
        if (way.who() !== who) return;
        const after = way.failed(job, error);
        if (after === 'later') return again();
        if (after === 'stop') return;
        continue;
      }
      if (way.who() !== who) return; // it is still kept for them, and passed over when it comes again
      failures = 0;
      way.took(job, answer);
    }
    if (way.passed?.()) again();
  }

  function again() {
    callOff = way.later(() => void send(), pauseAfter(++failures, way.random()));
  }

  /** Whoever is here has changed: no pause is kept. */
  function reset() {
    callOff();
    failures = 0;
  }

  return { send, reset };
}
