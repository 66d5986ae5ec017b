import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from '@/App.vue';
import { Problem } from '@/api/client';
import { i18n } from '@/i18n';
import { router } from '@/router';
import { applyTheme, rememberedTheme } from '@/shared/theme';
import '@/styles.css';

applyTheme(rememberedTheme());

const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      // A refusal stays one; only what may pass is tried again.
      retry: (count, error) => count < 2 && !(error instanceof Problem && error.status < 500),
    },
  },
});

createApp(App).use(createPinia()).use(router).use(i18n).use(VueQueryPlugin, { queryClient }).mount('#app');
