// The core, compiled from Go, in a thread of its own: the
// bench goes on judging while the network is away.
type GoProgram = { importObject: WebAssembly.Imports; run(instance: WebAssembly.Instance): Promise<void> };
type Scope = typeof globalThis & { Go: new () => GoProgram; exactflaskJudge: (request: string) => string };
const scope = globalThis as Scope;

const ready = (async () => {
  // Both are made by the build and stand beside the page.
  await import(/* @vite-ignore */ `${location.origin}/wasm_exec.js`);
  const go = new scope.Go();
  const answer = await fetch('/device.wasm');
  const { instance } = await WebAssembly.instantiate(await answer.arrayBuffer(), go.importObject);
  void go.run(instance);
})();

onmessage = async ({ data }: MessageEvent<{ id: number; request: string }>) => {
  try {
    await ready;
    postMessage({ id: data.id, answer: scope.exactflaskJudge(data.request) });
  } catch (error) {
    postMessage({ id: data.id, error: String(error) });
  }
};
