import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import reactHooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/** The arrows between packages point down: a folder may not import from what stands above it. */
const arrows = (files, forbidden) => ({
  files,
  rules: {
    'no-restricted-imports': ['error', { patterns: forbidden.map(([group, message]) => ({ group, message })) }],
  },
});
const APPS = [
  ['@bluster/server', '@bluster/server/*', '@bluster/cli', '@bluster/web', '@bluster/demo'],
  'The core and the painter stand below the applications.',
];
const ENVIRONMENT = [
  ['node:*', 'react', 'react-*'],
  'The core runs in a page, a worker and on the server: no Node and no interface in it.',
];
const MONTAGE = [['**/montage/*', '**/picture/*', '**/sound/*', '**/footage/*', '**/formats/*'], 'Music knows nothing of montage.'];

export default tseslint.config(
  {
    ignores: [
      '**/dist',
      '**/node_modules',
      'data',
      '.bluster',
      'demo',
      'packages/core/assembly',
      'packages/media/assembly',
      'packages/painter/assembly',
      'packages/core/src/music/*.wasm.ts',
      'packages/media/src/film/*.wasm.ts',
      'packages/painter/src/*.wasm.ts',
      'packages/core/src/music/*.weights.ts',
      'apps/web/vite.config.ts',
      'test-results',
      'playwright-report',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommendedTypeChecked.map((config) => ({ ...config, files: ['**/*.ts', '**/*.tsx'] })),
  {
    files: ['**/*.ts', '**/*.tsx'],
    languageOptions: {
      parserOptions: { projectService: { allowDefaultProject: ['apps/web/vite.config.ts'] }, tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/explicit-function-return-type': ['error', { allowExpressions: true, allowTypedFunctionExpressions: true }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  arrows(['packages/core/src/**'], [APPS, ENVIRONMENT, [['@bluster/painter'], 'The painter stands on the core.']]),
  arrows(['packages/core/src/music/**', 'packages/core/src/time/**'], [APPS, ENVIRONMENT, MONTAGE]),
  // Tests may read files that lie beside them.
  arrows(['packages/core/src/**/*.test.ts'], [APPS]),
  arrows(['packages/painter/src/**'], [APPS, ENVIRONMENT]),
  arrows(
    ['apps/web/src/**'],
    [[['@bluster/server', '@bluster/server/*', '@bluster/cli', 'node:*'], 'Pages talk to the server over HTTP.']],
  ),
  arrows(['apps/server/src/**'], [[['@bluster/web', '@bluster/cli'], 'The server knows neither pages nor the command line.']]),
  {
    files: ['apps/web/src/**'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  { files: ['**/*.mjs'], languageOptions: { globals: globals.node } },
  prettier,
);
