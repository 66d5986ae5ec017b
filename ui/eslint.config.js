import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import ts from 'typescript-eslint';

// The page in storeys: each imports those before it, and its own.
const storeys = ['shared', 'device', 'api', 'session', 'notebook', 'features'];
const storeysHold = storeys.map((storey, i) => ({
  files: [`src/${storey}/**/*.{ts,vue}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: storeys
          .slice(i + 1)
          .map((above) => ({ regex: `^@/${above}/`, allowTypeImports: storey === 'shared' })),
      },
    ],
  },
}));
// Nothing asks the server beside api/; the core and the service worker are files of the page.
const oneDoor = {
  files: ['src/**/*.{ts,vue}'],
  ignores: ['src/api/**', 'src/notebook/worker.ts', '**/*.test.ts'],
  rules: { 'no-restricted-globals': ['error', 'fetch', 'EventSource', 'XMLHttpRequest'] },
};

export default ts.config(
  { ignores: ['src/api/schema.d.ts', 'node_modules', 'public', 'src/core'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  { rules: { 'vue/multi-word-component-names': 'off', 'no-undef': 'off' } },
  ...storeysHold.filter(({ rules }) => rules['no-restricted-imports'][1].patterns.length),
  oneDoor,
  prettier,
);
