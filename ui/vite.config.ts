import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import vue from '@vitejs/plugin-vue';
import { defineConfig, type Plugin } from 'vite';

const server = process.env.EXACTFLASK_SERVER ?? 'http://localhost:8080';

// Every browser that runs this application reads woff2; the formula
// typesetter's older font files would only make the program larger.
const woff2Only: Plugin = {
  name: 'woff2-only',
  enforce: 'pre',
  transform: (code, id) =>
    id.includes('katex') && id.endsWith('.css') ? code.replace(/,url\([^)]*\.(woff|ttf)\) format\("[a-z]+"\)/g, '') : null,
};

export default defineConfig({
  plugins: [woff2Only, vue(), tailwindcss()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: { outDir: '../web/dist', emptyOutDir: true, target: 'es2022', manifest: true, assetsInlineLimit: 0 },
  server: { proxy: { '/api': server } },
});
