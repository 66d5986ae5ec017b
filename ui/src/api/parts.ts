// The parts of the page itself, as files.

/** Fetches what no view has asked for yet, one after the other, so that it is there without the network. */
export async function fetchTheRest() {
  if (!navigator.serviceWorker?.controller) return;
  const manifest = (await (await fetch('/.vite/manifest.json')).json()) as Record<
    string,
    { file: string; css?: string[]; assets?: string[] }
  >;
  const files = new Set(Object.values(manifest).flatMap((m) => [m.file, ...(m.css ?? []), ...(m.assets ?? [])]));
  for (const file of files) {
    if (!navigator.onLine) return;
    await fetch('/' + file, { priority: 'low' }).catch(() => undefined);
  }
}
