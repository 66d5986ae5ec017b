// A new version of the program under an open page: the old one works on, and says
// that there is a new one. Nothing is loaded anew but by a person's own touch.
import { ref } from 'vue';
import { newerVersion } from '@/api/client';

/** Whether a part of this version is not to be had any more: it has to be loaded anew. */
export const partMissing = ref(false);

let waiting: ServiceWorker | undefined;

export function watchVersions() {
  // A view that was not loaded yet is gone after an update, or there is no network.
  window.addEventListener('vite:preloadError', (e) => {
    e.preventDefault();
    partMissing.value = true;
  });
  if (!import.meta.env.PROD || !('serviceWorker' in navigator)) return;
  void navigator.serviceWorker.register('/sw.js').then((registration) => {
    const found = (worker: ServiceWorker | null) => {
      if (!worker || !navigator.serviceWorker.controller) return; // the first one
      waiting = worker;
      newerVersion.value = true;
    };
    found(registration.waiting);
    registration.addEventListener('updatefound', () => {
      const worker = registration.installing;
      worker?.addEventListener('statechange', () => worker.state === 'installed' && found(worker));
    });
  });
}

/** Loads the new version: what waits and what is half typed is kept on the device. */
export async function loadNewVersion() {
  const reload = () => location.reload();
  // The server may have told of it before the browser has looked for it.
  if (!waiting) await navigator.serviceWorker?.getRegistration().then(fetched, () => undefined);
  if (!waiting) return reload();
  navigator.serviceWorker.addEventListener('controllerchange', reload, { once: true });
  waiting.postMessage({ type: 'SKIP_WAITING' });
  setTimeout(reload, 3_000);
}

/** Looks for a newer version, and waits until it is there. */
async function fetched(registration?: ServiceWorkerRegistration) {
  await registration?.update();
  const coming = registration?.installing;
  if (coming)
    await new Promise<void>((done) => {
      coming.addEventListener('statechange', () => coming.state !== 'installing' && done());
      setTimeout(done, 20_000);
    });
  waiting ??= registration?.waiting ?? undefined;
}
