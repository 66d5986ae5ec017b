// A probe that is joined to the bench: through the server (its own program sends, or the
// demo simulates one), or by a wire where the browser has serial ports. What it shows is only
// shown; a point is noted by a person, or by itself once the value is steady.
import { onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue';
import type { Notebook } from '@/api/client';
import { leaveProbe, liveProbe, probeToken, simulate, type LiveProbe } from '@/api/probe';
import { readValue, write } from '@/device/storage';
import { judgeLines } from '@/notebook/judge';
import { say } from '@/words';

export type Joined = '' | 'simulated' | 'http' | 'serial';

type Port = {
  open(o: { baudRate: number }): Promise<void>;
  readable: ReadableStream<Uint8Array>;
  close(): Promise<void>;
};
type Serial = { requestPort(): Promise<Port> };
const serial = (navigator as { serial?: Serial }).serial;
/** Whether this browser has serial ports. */
export const hasSerial = serial !== undefined;

const every = 600; // ms

export function useProbe(notebook: Ref<Notebook>) {
  const id = notebook.value.id;
  const place = `exactflask.probe.${id}`;
  const joined = ref<Joined>(readValue<Joined>(place) ?? '');
  if (joined.value === 'serial') joined.value = ''; // a wire is joined by hand each time
  const live = shallowRef<LiveProbe>();
  const problem = ref('');
  const token = ref('');
  const automatic = ref(false);
  let timer = 0;
  let port: Port | undefined;
  let failures = 0;

  async function poll() {
    clearTimeout(timer);
    if (joined.value !== 'simulated' && joined.value !== 'http') return;
    try {
      live.value = await liveProbe(id);
      problem.value = '';
      failures = 0;
    } catch (e) {
      problem.value = e instanceof Error ? e.message : String(e);
      if (live.value) live.value = { ...live.value, gone: true, steady: false };
      failures++;
    }
    timer = window.setTimeout(poll, every * Math.min(10, 1 + failures));
  }

  async function join(how: Joined) {
    problem.value = '';
    token.value = '';
    try {
      if (how === 'simulated') await simulate(id);
      if (how === 'http') token.value = await probeToken(id);
      if (how === 'serial') return await wire();
      joined.value = how;
      write(place, how);
      void poll();
    } catch (e) {
      problem.value = e instanceof Error ? e.message : String(e);
    }
  }

  /** Lines from a serial port are judged here, so that it works without the network. */
  async function wire() {
    port = await serial!.requestPort();
    await port.open({ baudRate: 9600 });
    joined.value = 'serial';
    const reader = port.readable
      .pipeThrough(new TextDecoderStream() as unknown as ReadableWritablePair<string, Uint8Array>)
      .getReader();
    let rest = '';
    void (async () => {
      try {
        for (;;) {
          const { value, done } = await reader.read();
          if (done || joined.value !== 'serial') break;
          const parts = (rest + value).split(/\r?\n/);
          rest = parts.pop()!.slice(-2000);
          if (parts.length) live.value = await judgeLines(notebook.value, parts);
        }
      } catch (e) {
        problem.value = say('probe.wireLost', { why: e instanceof Error ? e.message : String(e) });
      }
      if (live.value) live.value = { ...live.value, gone: true, steady: false };
    })();
    // Nothing comes any more where the wire is pulled.
    const watchWire = async () => {
      if (joined.value !== 'serial') return;
      live.value = (await judgeLines(notebook.value, [])) ?? live.value;
      timer = window.setTimeout(watchWire, 1000);
    };
    timer = window.setTimeout(watchWire, 1000);
  }

  async function leave() {
    const was = joined.value;
    joined.value = '';
    automatic.value = false;
    live.value = undefined;
    clearTimeout(timer);
    write(place, '');
    if (was === 'serial') await port?.close().catch(() => undefined);
    else await leaveProbe(id).catch(() => undefined);
  }

  /**
   * The burette was run to a reading: the simulated probe has to know, and only then shows it.
   * Answers how many lines had come by then. Looked up, for what was asked last may be seconds
   * old: the lines between would pass for new ones.
   */
  async function ran(burette: string): Promise<number> {
    if (!burette || !joined.value) return live.value?.total ?? 0;
    try {
      if (joined.value === 'simulated') await simulate(id, burette);
      if (joined.value !== 'serial') live.value = await liveProbe(id);
    } catch {
      return Infinity; // it is not known what is new: a person takes it
    }
    return live.value?.total ?? 0;
  }

  watch(joined, () => void poll(), { immediate: true });
  onScopeDispose(() => {
    clearTimeout(timer);
    void port?.close().catch(() => undefined);
  });
  const setAutomatic = (on: boolean) => (automatic.value = on);
  return { joined, live, problem, token, automatic, setAutomatic, join, leave, ran };
}

export type LiveOfBench = ReturnType<typeof useProbe>;
