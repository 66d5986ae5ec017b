import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from '@/App.vue';
import { Problem } from '@/api/client';
import { i18n } from '@/words';
import { router } from '@/router';
import { applyTheme, rememberedTheme } from '@/shared/theme';
import '@/styles.css';

applyTheme(rememberedTheme());

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

// After one visit the page loads without the network.
if (import.meta.env.PROD && 'serviceWorker' in navigator) void navigator.serviceWorker.register('/sw.js');
// A view of an older version is gone after an update: load the new one.
window.addEventListener('vite:preloadError', () => location.reload());

createApp(App).use(createPinia()).use(router).use(i18n).use(VueQueryPlugin, { queryClient }).mount('#app');
