import { notifyManager, QueryClient, VueQueryPlugin } from '@tanstack/vue-query';
import { createPinia } from 'pinia';
import { createApp, watch } from 'vue';
import App from '@/App.vue';
import { Problem } from '@/api/client';
import { askForNotebook } from '@/notebook/notebooks';
import { router } from '@/router';
import { useSession } from '@/session/session';
import { watchVersions } from '@/session/version';
import { applyTheme, rememberedTheme } from '@/device/theme';
import { submitOnce } from '@/shared/once';
import '@/styles.css';

applyTheme(rememberedTheme());
submitOnce(document);

// What the server said is shown in the next frame, and not in the one after it.
notifyManager.setScheduler(queueMicrotask);
const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      networkMode: 'always', // without the network, what is kept stands in
      staleTime: 5_000,
      // A refusal stays one; only what may pass is tried again.
      retry: (count, error) => count < 2 && !(error instanceof Problem && error.status < 500),
    },
    mutations: { networkMode: 'always' },
  },
});

const app = createApp(App).use(createPinia()).use(VueQueryPlugin, { queryClient });
const session = app.runWithContext(() => useSession());
watchVersions();
// As soon as it is known who is here, before anything is drawn.
const stop = watch(
  () => session.id,
  (id) => {
    stop();
    const notebook = /^\/notebooks\/([\w-]+)/.exec(location.pathname)?.[1];
    if (id && notebook) void askForNotebook(queryClient, notebook);
  },
  { flush: 'sync' },
);
// Known from this device at once; the server is asked meanwhile.
void session.begin();
// In a turn of its own: a poor phone paints and listens in between.
setTimeout(() => app.use(router).mount('#app'));
