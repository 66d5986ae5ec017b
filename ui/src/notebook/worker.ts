// The core, compiled from Go, in a thread of its own: the
// bench goes on judging while the network is away.
import '@/core/wasm_exec.js';
import module from '@/core/device.wasm?url';

type GoProgram = { importObject: WebAssembly.Imports; run(instance: WebAssembly.Instance): Promise<void> };
type Scope = typeof globalThis & {
  Go: new () => GoProgram;
  exactflaskJudge: (request: string) => string;
  exactflaskRest: () => void;
};
const scope = globalThis as Scope;

const ready = (async () => {
  const go = new scope.Go();
  const { instance } = await WebAssembly.instantiateStreaming(fetch(module), go.importObject);
  void go.run(instance);
  postMessage({ ready: true });
})();

let rest: ReturnType<typeof setTimeout> | undefined;
onmessage = async ({ data }: MessageEvent<{ id: number; request: string }>) => {
  try {
    await ready;
    clearTimeout(rest);
    postMessage({ id: data.id, answer: scope.exactflaskJudge(data.request) });
    rest = setTimeout(() => scope.exactflaskRest(), 100); // until somebody asks again
  } catch (error) {
    postMessage({ id: data.id, error: String(error) });
  }
};
