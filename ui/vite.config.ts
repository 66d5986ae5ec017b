import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import vue from '@vitejs/plugin-vue';
import { VitePWA } from 'vite-plugin-pwa';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';

const server = process.env.EXACTFLASK_SERVER ?? 'http://localhost:8080';

// Every browser that runs this application reads woff2; the formula
// typesetter's older font files would only make the program larger.
const woff2Only: Plugin = {
  name: 'woff2-only',
  enforce: 'pre',
  transform: (code, id) =>
    id.includes('katex') && id.endsWith('.css')
      ? code.replace(/,url\([^)]*\.(woff|ttf)\) format\("[a-z]+"\)/g, '')
      : null,
};

// What is asked for early has a script of its own before the others, for who is known.
const asksEarly: Plugin = {
  name: 'asks-early',
  enforce: 'post',
  apply: 'build',
  transformIndexHtml: {
    order: 'post',
    handler: (html, { bundle }) => {
      const file = Object.values(bundle ?? {}).find((part) => part.type === 'chunk' && part.name === 'early');
      if (!file) throw new Error('there is no script that asks early');
      return html.replace(':known-->', `<script type="module" crossorigin src="/${file.fileName}"></script>:known-->`);
    },
  },
};

// The page has its looks before its scripts: it is painted while they are on their way.
const looksFirst: Plugin = {
  name: 'looks-first',
  enforce: 'post',
  transformIndexHtml: {
    order: 'post',
    handler: (html) => {
      const looks = html.match(/ *<link rel="stylesheet"[^>]*>\n?/g) ?? [];
      return looks
        .reduce((rest, link) => rest.replace(link, ''), html)
        .replace(/ *<script type="module"/, (script) => looks.join('') + script);
    },
  },
};

// What a bench needs to stand, and what belongs to it: its own scripts and styles and
// those of its dialogs, with everything that they import.
const bench = new Set<string>();
const benchParts =
  /src\/(main|api\/early|features\/bench\/(BenchBelow|(\w+\/)?\w+Dialogs?)|features\/signin\/LeavingDialog)\.(ts|vue)$|views\.json$/;
const belongsToBench: Plugin = {
  name: 'belongs-to-bench',
  generateBundle(_, bundle) {
    const add = (file: string) => {
      const part = bundle[file];
      if (bench.has(file) || part?.type !== 'chunk') return;
      bench.add(file);
      part.viteMetadata?.importedCss.forEach((css) => bench.add(css));
      part.imports.forEach(add);
    };
    Object.values(bundle).forEach(
      (part) => part.type === 'chunk' && part.moduleIds.some((id) => benchParts.test(id)) && add(part.fileName),
    );
  },
};

export default defineConfig({
  // What this application does not use of its libraries is left out of them.
  define: {
    __VUE_OPTIONS_API__: false,
    __VUE_PROD_DEVTOOLS__: false,
  },
  plugins: [
    woff2Only,
    looksFirst,
    asksEarly,
    belongsToBench,
    vue(),
    tailwindcss(),
    // After one visit the page loads without the network.
    VitePWA({
      registerType: 'prompt', // a new version waits until it is asked for
      injectRegister: false,
      manifest: {
        name: 'Exact Flask',
        short_name: 'Exact Flask',
        description: 'Titrations in a teaching laboratory',
        start_url: '/shelf',
        display: 'standalone',
        background_color: '#f2f5f8',
        theme_color: '#6d2077',
        icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        // What the bench needs to stand comes first and at once; the rest is fetched
        // by the page when it has nothing else to do, and kept here by its name,
        // which is made of its content: two versions never mix.
        globPatterns: ['index.html', 'icon.svg', 'assets/*.{js,css}', 'assets/atkinson-*-latin-wght-*.woff2'],
        manifestTransforms: [
          (entries) => ({
            manifest: entries.filter(({ url }) => bench.has(url) || !/\.(js|css)$/.test(url)),
            warnings: [],
          }),
        ],
        runtimeCaching: [
          {
            urlPattern: ({ url }) => url.pathname.startsWith('/assets/'),
            handler: 'CacheFirst',
            options: { cacheName: 'assets', expiration: { maxEntries: 150, purgeOnQuotaError: true } },
          },
        ],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//],
        inlineWorkboxRuntime: true,
        cleanupOutdatedCaches: true,
        clientsClaim: true,
      },
    }),
  ],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    outDir: '../web/dist',
    emptyOutDir: true,
    target: 'es2022',
    manifest: true,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'early', test: /src\/api\/early\.ts$/, priority: 1 },
            // What is needed at once is one script: smaller, and asked for once.
            { name: 'bench', test: /src\/main\.ts$/ },
          ],
        },
      },
    },
  },
  test: { include: ['src/**/*.test.ts'] },
  server: { proxy: { '/api': server } },
});
